CREATE TABLE `checklist_item` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`requirement_id` integer NOT NULL,
	`position` integer NOT NULL,
	`text` text NOT NULL,
	`done_at` integer,
	`done_by` text,
	`case_id` integer,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`requirement_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `checklist_item_requirement` ON `checklist_item` (`requirement_id`,`position`);--> statement-breakpoint
CREATE TABLE `draft_model` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`requirement_id` integer NOT NULL,
	`technique` text NOT NULL,
	`name` text NOT NULL,
	`body` text NOT NULL,
	`source` text DEFAULT '{}' NOT NULL,
	`pattern` text DEFAULT '' NOT NULL,
	`revision` integer DEFAULT 1 NOT NULL,
	`requirement_revision` integer DEFAULT 1 NOT NULL,
	`version` integer DEFAULT 1 NOT NULL,
	`updated_at` integer NOT NULL,
	`updated_by` text,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`requirement_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `draft_model_requirement` ON `draft_model` (`requirement_id`);--> statement-breakpoint
CREATE INDEX `draft_model_project` ON `draft_model` (`project_id`);--> statement-breakpoint
CREATE TABLE `draft_model_revision` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`model_id` integer NOT NULL,
	`revision` integer NOT NULL,
	`body` text NOT NULL,
	`at` integer NOT NULL,
	`person_id` text,
	FOREIGN KEY (`model_id`) REFERENCES `draft_model`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `draft_model_revision_model` ON `draft_model_revision` (`model_id`,`revision`);--> statement-breakpoint
CREATE TABLE `draft_row` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`model_id` integer NOT NULL,
	`row` text NOT NULL,
	`decision` text NOT NULL,
	`case_id` integer,
	`revision` integer NOT NULL,
	`at` integer NOT NULL,
	`person_id` text,
	`ended_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`model_id`) REFERENCES `draft_model`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `draft_row_model` ON `draft_row` (`model_id`);--> statement-breakpoint
CREATE INDEX `draft_row_case` ON `draft_row` (`case_id`);