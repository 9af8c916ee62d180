CREATE TABLE `data_row_use` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`row_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	`attempt_id` integer,
	`at` integer NOT NULL,
	`filled_at` integer
);
--> statement-breakpoint
CREATE INDEX `data_row_use_row` ON `data_row_use` (`row_id`,`environment_id`);--> statement-breakpoint
CREATE TABLE `item_wait` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`item_id` integer NOT NULL,
	`defect_id` integer,
	`other_item_id` integer,
	`person_id` text NOT NULL,
	`at` integer NOT NULL,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`other_item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `item_wait_item` ON `item_wait` (`item_id`);--> statement-breakpoint
CREATE INDEX `item_wait_defect` ON `item_wait` (`defect_id`);--> statement-breakpoint
CREATE INDEX `item_wait_other` ON `item_wait` (`other_item_id`);--> statement-breakpoint
ALTER TABLE `data_table` ADD `used_up` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `routine_step` ADD `evidence` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `version_step` ADD `evidence` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `person` ADD `after_verdict` text DEFAULT 'next' NOT NULL;--> statement-breakpoint
ALTER TABLE `project` ADD `dealing` text DEFAULT 'evenly' NOT NULL;--> statement-breakpoint
ALTER TABLE `attempt` ADD `timing` text DEFAULT 'clock' NOT NULL;--> statement-breakpoint
ALTER TABLE `attempt_row` ADD `origin` integer;--> statement-breakpoint
ALTER TABLE `item` ADD `fingerprint` text;--> statement-breakpoint
ALTER TABLE `item` ADD `people` integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `item` ADD `passes` integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `run` ADD `aim` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `run` ADD `data_rows` text DEFAULT '' NOT NULL;