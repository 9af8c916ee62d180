CREATE TABLE `holiday` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`day` text NOT NULL,
	`name` text NOT NULL,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `holiday_project` ON `holiday` (`project_id`,`day`);--> statement-breakpoint
CREATE TABLE `item_place` (
	`item_id` integer PRIMARY KEY NOT NULL,
	`person_id` text NOT NULL,
	`day` text NOT NULL,
	`start` integer NOT NULL,
	`minutes` integer NOT NULL,
	`pinned` integer DEFAULT false NOT NULL,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `item_place_person` ON `item_place` (`person_id`,`day`);--> statement-breakpoint
CREATE TABLE `learned_minutes` (
	`case_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	`minutes` real NOT NULL,
	`low` real NOT NULL,
	`high` real NOT NULL,
	`n` integer NOT NULL,
	PRIMARY KEY(`case_id`, `environment_id`),
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `minutes_model` (
	`project_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	`base` real NOT NULL,
	`steps` real NOT NULL,
	`rows` real NOT NULL,
	`spread` real NOT NULL,
	`n` integer NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`project_id`, `environment_id`),
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
ALTER TABLE `project` ADD `switch_minutes` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `project` ADD `reserve_percent` real DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `project` ADD `worth_weights` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `item` ADD `held` text;--> statement-breakpoint
ALTER TABLE `run` ADD `line_minutes` integer;