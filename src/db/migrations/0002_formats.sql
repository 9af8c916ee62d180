CREATE TABLE `import_act` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`at` integer NOT NULL,
	`person_id` text,
	`source` text NOT NULL,
	`what` text NOT NULL,
	`made` text NOT NULL,
	`changed` text NOT NULL,
	`undone_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `import_act_project` ON `import_act` (`project_id`,`id`);--> statement-breakpoint
CREATE TABLE `import_mapping` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`name` text NOT NULL,
	`mapping` text NOT NULL,
	`person_id` text,
	`at` integer NOT NULL,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `import_mapping_name` ON `import_mapping` (`project_id`,`name`);--> statement-breakpoint
CREATE TABLE `import_origin` (
	`project_id` integer NOT NULL,
	`owner_kind` text NOT NULL,
	`source` text NOT NULL,
	`outside_id` text NOT NULL,
	`owner_id` integer NOT NULL,
	PRIMARY KEY(`project_id`, `owner_kind`, `source`, `outside_id`)
);
--> statement-breakpoint
CREATE INDEX `import_origin_owner` ON `import_origin` (`owner_kind`,`owner_id`);--> statement-breakpoint
CREATE TABLE `requirement_relation` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`from_id` integer NOT NULL,
	`to_id` integer NOT NULL,
	`kind` text NOT NULL,
	`from_at` integer NOT NULL,
	`until_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`from_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`to_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `requirement_relation_from` ON `requirement_relation` (`from_id`);--> statement-breakpoint
CREATE INDEX `requirement_relation_to` ON `requirement_relation` (`to_id`);--> statement-breakpoint
ALTER TABLE `custom_field` ADD `types` text DEFAULT '' NOT NULL;