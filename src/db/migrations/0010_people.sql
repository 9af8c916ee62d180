CREATE TABLE `absence` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`person_id` text NOT NULL,
	`start_on` text NOT NULL,
	`end_on` text NOT NULL,
	`minutes` integer,
	`reason` text DEFAULT '' NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `absence_person` ON `absence` (`person_id`,`end_on`);--> statement-breakpoint
CREATE TABLE `group_member` (
	`group_id` integer NOT NULL,
	`person_id` text NOT NULL,
	PRIMARY KEY(`group_id`, `person_id`),
	FOREIGN KEY (`group_id`) REFERENCES `person_group`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `group_member_person` ON `group_member` (`person_id`);--> statement-breakpoint
CREATE TABLE `group_role` (
	`group_id` integer NOT NULL,
	`project_id` integer NOT NULL,
	`role` text NOT NULL,
	PRIMARY KEY(`group_id`, `project_id`),
	FOREIGN KEY (`group_id`) REFERENCES `person_group`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `password_link` (
	`hash` text PRIMARY KEY NOT NULL,
	`person_id` text NOT NULL,
	`purpose` text NOT NULL,
	`made_by` text,
	`created_at` integer NOT NULL,
	`ends_at` integer NOT NULL,
	`used_at` integer,
	FOREIGN KEY (`person_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `password_link_person` ON `password_link` (`person_id`);--> statement-breakpoint
CREATE TABLE `person_group` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`name` text NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `person_group_name_unique` ON `person_group` (`name`);--> statement-breakpoint
CREATE TABLE `person_picture` (
	`person_id` text PRIMARY KEY NOT NULL,
	`mime` text NOT NULL,
	`bytes` blob NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `second_factor` (
	`id` text PRIMARY KEY NOT NULL,
	`secret` text NOT NULL,
	`backup_codes` text NOT NULL,
	`user_id` text NOT NULL,
	`verified` integer DEFAULT false NOT NULL,
	`failed_verification_count` integer DEFAULT 0 NOT NULL,
	`locked_until` integer,
	FOREIGN KEY (`user_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `second_factor_person` ON `second_factor` (`user_id`);--> statement-breakpoint
CREATE TABLE `security_event` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at` integer NOT NULL,
	`kind` text NOT NULL,
	`person_id` text,
	`by_id` text,
	`project_id` integer,
	`address` text DEFAULT '' NOT NULL,
	`told` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `security_event_kind` ON `security_event` (`kind`,`id`);--> statement-breakpoint
CREATE INDEX `security_event_person` ON `security_event` (`person_id`,`id`);--> statement-breakpoint
CREATE INDEX `security_event_at` ON `security_event` (`at`);--> statement-breakpoint
ALTER TABLE `membership` ADD `given_role` text;--> statement-breakpoint
ALTER TABLE `membership` ADD `share_percent` real DEFAULT 100 NOT NULL;--> statement-breakpoint
CREATE INDEX `membership_person` ON `membership` (`person_id`);--> statement-breakpoint
ALTER TABLE `person` ADD `two_factor_enabled` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `person` ADD `language` text DEFAULT 'en-GB' NOT NULL;--> statement-breakpoint
ALTER TABLE `person` ADD `time_zone` text;--> statement-breakpoint
ALTER TABLE `person` ADD `working_minutes` integer DEFAULT 480 NOT NULL;--> statement-breakpoint
ALTER TABLE `person` ADD `free_percent` real DEFAULT 60 NOT NULL;--> statement-breakpoint
ALTER TABLE `person` ADD `ended_at` integer;--> statement-breakpoint
ALTER TABLE `sign_in` ADD `last_used_at` integer;--> statement-breakpoint
ALTER TABLE `project` ADD `second_factor_asked` integer DEFAULT false NOT NULL;--> statement-breakpoint
CREATE INDEX `change_person` ON `change` (`project_id`,`person_id`,`id`);--> statement-breakpoint
CREATE INDEX `change_kind` ON `change` (`project_id`,`kind`,`id`);--> statement-breakpoint
UPDATE `person` SET `free_percent` = 100, `working_minutes` = max(480, (SELECT max(`minutes_per_day`) FROM `membership` WHERE `person_id` = `person`.`id`)) WHERE `id` IN (SELECT `person_id` FROM `membership`);
--> statement-breakpoint
UPDATE `membership` SET `given_role` = `role`, `share_percent` = `minutes_per_day` * 100.0 / (SELECT `working_minutes` FROM `person` WHERE `id` = `membership`.`person_id`);
--> statement-breakpoint
ALTER TABLE `membership` DROP COLUMN `minutes_per_day`;
