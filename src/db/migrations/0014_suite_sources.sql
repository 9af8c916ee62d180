CREATE TABLE `suite_exclusion` (
	`suite_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`reason` text NOT NULL,
	`person_id` text,
	`at` integer NOT NULL,
	PRIMARY KEY(`suite_id`, `case_id`),
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `suite_member` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`suite_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`sources` text NOT NULL,
	`from_at` integer NOT NULL,
	`until_at` integer,
	`from_by` text,
	`until_by` text,
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `suite_member_now` ON `suite_member` (`suite_id`,`case_id`) WHERE until_at is null;--> statement-breakpoint
CREATE INDEX `suite_member_until` ON `suite_member` (`suite_id`,`until_at`);--> statement-breakpoint
CREATE INDEX `suite_member_case` ON `suite_member` (`case_id`) WHERE until_at is null;--> statement-breakpoint
CREATE TABLE `suite_place` (
	`suite_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`position` integer NOT NULL,
	PRIMARY KEY(`suite_id`, `case_id`),
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `suite_source` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`suite_id` integer NOT NULL,
	`position` integer NOT NULL,
	`kind` text NOT NULL,
	`requirement_id` integer,
	`included_id` integer,
	`words` text DEFAULT '' NOT NULL,
	`filter` text DEFAULT '' NOT NULL,
	`minutes` integer,
	`frozen` text,
	`broken_at` integer,
	`created_at` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`requirement_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`included_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `suite_source_suite` ON `suite_source` (`suite_id`,`position`);--> statement-breakpoint
CREATE INDEX `suite_source_included` ON `suite_source` (`included_id`) WHERE included_id is not null;--> statement-breakpoint
CREATE TABLE `run_suite` (
	`run_id` integer NOT NULL,
	`suite_id` integer NOT NULL,
	PRIMARY KEY(`run_id`, `suite_id`),
	FOREIGN KEY (`run_id`) REFERENCES `run`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `run_suite_suite` ON `run_suite` (`suite_id`);--> statement-breakpoint
ALTER TABLE `suite` ADD `closed_reason` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `suite` ADD `ordered_by` text DEFAULT 'hand' NOT NULL;--> statement-breakpoint
ALTER TABLE `project` ADD `suites_noticed` integer DEFAULT 0 NOT NULL;
--> statement-breakpoint
INSERT INTO `suite_member` (`suite_id`, `case_id`, `sources`, `from_at`)
SELECT p.suite_id, p.case_id, '[0]', s.created_at
FROM suite_pin p
JOIN suite s ON s.id = p.suite_id
JOIN test_case c ON c.id = p.case_id
WHERE c.deleted_at IS NULL AND c.retired_at IS NULL;
