CREATE TABLE `plan_signature` (
	`version_id` integer NOT NULL,
	`person_id` text NOT NULL,
	`answer` text,
	`words` text DEFAULT '' NOT NULL,
	`at` integer,
	PRIMARY KEY(`version_id`, `person_id`),
	FOREIGN KEY (`version_id`) REFERENCES `plan_version`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `plan_signature_person` ON `plan_signature` (`person_id`);--> statement-breakpoint
CREATE TABLE `plan_version` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`plan_id` integer NOT NULL,
	`number` integer NOT NULL,
	`state` text NOT NULL,
	`definition` text NOT NULL,
	`note` text DEFAULT '' NOT NULL,
	`person_id` text,
	`at` integer NOT NULL,
	`ended_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `plan_version_number` ON `plan_version` (`plan_id`,`number`);--> statement-breakpoint
CREATE TABLE `plan_version_slot` (
	`version_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`place` integer NOT NULL,
	`environments` text NOT NULL,
	PRIMARY KEY(`version_id`, `case_id`, `place`),
	FOREIGN KEY (`version_id`) REFERENCES `plan_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `installation` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	`build_id` integer,
	`from_at` integer NOT NULL,
	`note` text DEFAULT '' NOT NULL,
	`person_id` text,
	`said_at` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`environment_id`) REFERENCES `environment`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`build_id`) REFERENCES `build`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `installation_from` ON `installation` (`environment_id`,`from_at`) WHERE deleted_at is null;--> statement-breakpoint
CREATE INDEX `installation_project` ON `installation` (`project_id`,`from_at`);--> statement-breakpoint
ALTER TABLE `plan` ADD `frozen_version_id` integer;--> statement-breakpoint
ALTER TABLE `attempt` ADD `build_by` text DEFAULT 'run' NOT NULL;--> statement-breakpoint
ALTER TABLE `attempt` ADD `expected_build_id` integer REFERENCES build(id);--> statement-breakpoint
ALTER TABLE `attempt` ADD `doubt` text;--> statement-breakpoint
CREATE INDEX `attempt_environment` ON `attempt` (`environment_id`,`started_at`);--> statement-breakpoint
ALTER TABLE `standing_result` ADD `doubted` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `comment` ADD `part` text;