CREATE TABLE `case_need` (
	`version_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	PRIMARY KEY(`version_id`, `case_id`),
	FOREIGN KEY (`version_id`) REFERENCES `case_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `case_template` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`name` text NOT NULL,
	`content` text NOT NULL,
	`person_id` text,
	`at` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `case_template_name` ON `case_template` (`project_id`,`name`) WHERE deleted_at is null;--> statement-breakpoint
CREATE TABLE `data_table` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`name` text NOT NULL,
	`columns` text DEFAULT '[]' NOT NULL,
	`version` integer DEFAULT 1 NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `data_table_name` ON `data_table` (`project_id`,`name`) WHERE deleted_at is null;--> statement-breakpoint
CREATE TABLE `data_table_row` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`table_id` integer NOT NULL,
	`position` integer NOT NULL,
	`values` text NOT NULL,
	`held_by` text,
	`held_at` integer,
	`held_attempt_id` integer,
	FOREIGN KEY (`table_id`) REFERENCES `data_table`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `data_table_row_table` ON `data_table_row` (`table_id`,`position`);--> statement-breakpoint
CREATE INDEX `data_table_row_held` ON `data_table_row` (`held_attempt_id`) WHERE held_attempt_id is not null;--> statement-breakpoint
CREATE TABLE `review_asked` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`version_id` integer NOT NULL,
	`asked_by` text NOT NULL,
	`person_id` text NOT NULL,
	`at` integer NOT NULL,
	`answer` text,
	`answered_at` integer,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`version_id`) REFERENCES `case_version`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `review_asked_case` ON `review_asked` (`case_id`);--> statement-breakpoint
CREATE INDEX `review_asked_person` ON `review_asked` (`person_id`) WHERE answer is null;--> statement-breakpoint
CREATE TABLE `routine` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`number` integer NOT NULL,
	`title` text NOT NULL,
	`objective` text DEFAULT '' NOT NULL,
	`newest_version_id` integer,
	`version` integer DEFAULT 1 NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `routine_number` ON `routine` (`project_id`,`number`);--> statement-breakpoint
CREATE TABLE `routine_step` (
	`version_id` integer NOT NULL,
	`position` integer NOT NULL,
	`key` integer NOT NULL,
	`action` text DEFAULT '' NOT NULL,
	`expected` text DEFAULT '' NOT NULL,
	`data` text DEFAULT '' NOT NULL,
	`use_routine_version_id` integer,
	`use_case_version_id` integer,
	`use_values` text DEFAULT '' NOT NULL,
	PRIMARY KEY(`version_id`, `position`),
	FOREIGN KEY (`version_id`) REFERENCES `routine_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`use_routine_version_id`) REFERENCES `routine_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`use_case_version_id`) REFERENCES `case_version`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `routine_version` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`routine_id` integer NOT NULL,
	`major` integer,
	`minor` integer,
	`fingerprint` text NOT NULL,
	`why` text DEFAULT '' NOT NULL,
	`created_at` integer NOT NULL,
	`created_by` text,
	FOREIGN KEY (`routine_id`) REFERENCES `routine`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `routine_version_number` ON `routine_version` (`routine_id`,`major`,`minor`);--> statement-breakpoint
CREATE TABLE `suggestion` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`version_id` integer NOT NULL,
	`content` text NOT NULL,
	`note` text DEFAULT '' NOT NULL,
	`state` text DEFAULT 'Open' NOT NULL,
	`at` integer NOT NULL,
	`person_id` text NOT NULL,
	`decided_at` integer,
	`decided_by` text,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`version_id`) REFERENCES `case_version`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `suggestion_case` ON `suggestion` (`case_id`);--> statement-breakpoint
CREATE TABLE `standing_import` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`name` text NOT NULL,
	`file` text NOT NULL,
	`what` text NOT NULL,
	`mapping` text DEFAULT '' NOT NULL,
	`every_minutes` integer,
	`person_id` text,
	`last_at` integer,
	`last_told` text DEFAULT '' NOT NULL,
	`last_hash` text DEFAULT '' NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `standing_import_name` ON `standing_import` (`project_id`,`name`) WHERE deleted_at is null;--> statement-breakpoint
CREATE TABLE `outside_copy` (
	`project_id` integer NOT NULL,
	`ref` text NOT NULL,
	`title` text NOT NULL,
	`state` text NOT NULL,
	`who` text DEFAULT '' NOT NULL,
	`text` text DEFAULT '' NOT NULL,
	`url` text DEFAULT '' NOT NULL,
	`changed_at` integer,
	`fetched_at` integer NOT NULL,
	PRIMARY KEY(`project_id`, `ref`),
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `tracker` (
	`project_id` integer PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`url` text NOT NULL,
	`token` text DEFAULT '' NOT NULL,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `notice` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`person_id` text NOT NULL,
	`kind` text NOT NULL,
	`ref` text NOT NULL,
	`text` text NOT NULL,
	`from_id` text,
	`at` integer NOT NULL,
	`read_at` integer
);
--> statement-breakpoint
CREATE INDEX `notice_person` ON `notice` (`person_id`,`project_id`,`read_at`);--> statement-breakpoint
ALTER TABLE `case_version` ADD `environment` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `case_version` ADD `table_id` integer REFERENCES data_table(id);--> statement-breakpoint
ALTER TABLE `case_version` ADD `table_mode` text;--> statement-breakpoint
ALTER TABLE `link` ADD `quote` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `step` ADD `within_step_id` integer REFERENCES step(id);--> statement-breakpoint
ALTER TABLE `step` ADD `inner_key` integer;--> statement-breakpoint
ALTER TABLE `step` ADD `inner_step_id` integer REFERENCES step(id);--> statement-breakpoint
CREATE INDEX `step_within` ON `step` (`within_step_id`);--> statement-breakpoint
ALTER TABLE `test_case` ADD `merged_into_id` integer;--> statement-breakpoint
ALTER TABLE `version_step` ADD `use_routine_version_id` integer REFERENCES routine_version(id);--> statement-breakpoint
ALTER TABLE `version_step` ADD `use_case_version_id` integer REFERENCES case_version(id);--> statement-breakpoint
ALTER TABLE `version_step` ADD `use_values` text DEFAULT '' NOT NULL;--> statement-breakpoint
CREATE INDEX `version_step_routine` ON `version_step` (`use_routine_version_id`) WHERE use_routine_version_id is not null;--> statement-breakpoint
CREATE INDEX `version_step_case` ON `version_step` (`use_case_version_id`) WHERE use_case_version_id is not null;--> statement-breakpoint
ALTER TABLE `project` ADD `reason_asked` integer DEFAULT false NOT NULL;