CREATE TABLE `calendar_address` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`person_id` text NOT NULL,
	`run_id` integer,
	`hash` text NOT NULL,
	`created_at` integer NOT NULL,
	`last_used_at` integer,
	`revoked_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`run_id`) REFERENCES `run`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `calendar_address_hash` ON `calendar_address` (`hash`);--> statement-breakpoint
CREATE INDEX `calendar_address_person` ON `calendar_address` (`person_id`);--> statement-breakpoint
CREATE TABLE `what_if` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`run_id` integer NOT NULL,
	`name` text NOT NULL,
	`end_on` text,
	`reserve_percent` real,
	`more` integer DEFAULT 0 NOT NULL,
	`person_id` text NOT NULL,
	`created_at` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`run_id`) REFERENCES `run`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `what_if_run` ON `what_if` (`run_id`);--> statement-breakpoint
CREATE TABLE `what_if_environment` (
	`what_if_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	PRIMARY KEY(`what_if_id`, `environment_id`),
	FOREIGN KEY (`what_if_id`) REFERENCES `what_if`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`environment_id`) REFERENCES `environment`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `what_if_person` (
	`what_if_id` integer NOT NULL,
	`person_id` text NOT NULL,
	PRIMARY KEY(`what_if_id`, `person_id`),
	FOREIGN KEY (`what_if_id`) REFERENCES `what_if`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
ALTER TABLE `run` ADD `reserve_percent` real;