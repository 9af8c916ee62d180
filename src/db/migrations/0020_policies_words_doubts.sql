CREATE TABLE `policy` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`decides` text NOT NULL,
	`records` text NOT NULL,
	`opens` text NOT NULL,
	`asked` text NOT NULL,
	`closes` text NOT NULL,
	`amends` text NOT NULL,
	`amend_days` integer NOT NULL,
	`approved_only` integer DEFAULT false NOT NULL,
	`spoiled_by_case` integer DEFAULT false NOT NULL,
	`spoiled_by_build` integer DEFAULT false NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `policy_project` ON `policy` (`project_id`);--> statement-breakpoint
CREATE TABLE `verdict_reason` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`verdict` text NOT NULL,
	`word` text NOT NULL,
	`position` integer DEFAULT 0 NOT NULL,
	`retired_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `verdict_reason_word` ON `verdict_reason` (`project_id`,`verdict`,lower(word));--> statement-breakpoint
CREATE TABLE `doubt_act` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`reason` text NOT NULL,
	`attempts` integer NOT NULL,
	`person_id` text NOT NULL,
	`at` integer NOT NULL,
	`lifted_at` integer,
	`lifted_by_id` text
);
--> statement-breakpoint
CREATE INDEX `doubt_act_project` ON `doubt_act` (`project_id`,`at`);--> statement-breakpoint
ALTER TABLE `project` ADD `policy_id` integer;--> statement-breakpoint
ALTER TABLE `verdict_kind` ADD `sign` text DEFAULT 'dot' NOT NULL;--> statement-breakpoint
ALTER TABLE `verdict_kind` ADD `tint` text DEFAULT 'grey' NOT NULL;--> statement-breakpoint
ALTER TABLE `verdict_kind` ADD `position` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `verdict_kind` ADD `retired_at` integer;--> statement-breakpoint
ALTER TABLE `attempt` ADD `whole_word` text;--> statement-breakpoint
ALTER TABLE `attempt` ADD `whole_final` integer DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE `attempt` ADD `word` text;--> statement-breakpoint
ALTER TABLE `attempt` ADD `reason` text;--> statement-breakpoint
ALTER TABLE `attempt` ADD `policy_id` integer;--> statement-breakpoint
ALTER TABLE `attempt` ADD `doubt_id` integer;--> statement-breakpoint
ALTER TABLE `attempt` ADD `struck` text;--> statement-breakpoint
CREATE INDEX `attempt_doubt` ON `attempt` (`doubt_id`) WHERE doubt_id is not null;--> statement-breakpoint
ALTER TABLE `run` ADD `policy_id` integer;