CREATE TABLE `plan_ask` (
	`plan_id` integer NOT NULL,
	`about` text NOT NULL,
	`suite_id` integer,
	`requirement_id` integer,
	`case_id` integer,
	`way` text NOT NULL,
	`environments` text,
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`requirement_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `plan_ask_plan` ON `plan_ask` (`plan_id`);--> statement-breakpoint
CREATE TABLE `plan_deal` (
	`plan_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	PRIMARY KEY(`plan_id`, `case_id`),
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`environment_id`) REFERENCES `environment`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `outage` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	`from_at` integer NOT NULL,
	`until_at` integer,
	`reason` text DEFAULT '' NOT NULL,
	`person_id` text,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`environment_id`) REFERENCES `environment`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `outage_environment` ON `outage` (`environment_id`,`from_at`);--> statement-breakpoint
CREATE INDEX `outage_project` ON `outage` (`project_id`,`from_at`);--> statement-breakpoint
ALTER TABLE `test_case` ADD `from_release_id` integer;--> statement-breakpoint
ALTER TABLE `test_case` ADD `from_iteration_id` integer;--> statement-breakpoint
ALTER TABLE `build` ADD `notes` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `build` ADD `touches` text;--> statement-breakpoint
ALTER TABLE `environment` ADD `owner_id` text;--> statement-breakpoint
ALTER TABLE `environment` ADD `address` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `environment` ADD `notes` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `project` ADD `factors` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `project` ADD `factor_rules` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `project` ADD `paths` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `project` ADD `smoke_suite_id` integer;