CREATE TABLE `plan_branch` (
	`plan_id` integer NOT NULL,
	`requirement_id` integer NOT NULL,
	`inside` integer DEFAULT false NOT NULL,
	`reason` text DEFAULT '' NOT NULL,
	PRIMARY KEY(`plan_id`, `requirement_id`),
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`requirement_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `plan_criterion` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`plan_id` integer NOT NULL,
	`side` text NOT NULL,
	`position` integer NOT NULL,
	`rule` text NOT NULL,
	`waived_by` text,
	`waived_at` integer,
	`waived_reason` text DEFAULT '' NOT NULL,
	`waived_until` text,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `plan_criterion_plan` ON `plan_criterion` (`plan_id`,`position`);--> statement-breakpoint
CREATE TABLE `plan_milestone` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`plan_id` integer NOT NULL,
	`title` text NOT NULL,
	`on` text NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `plan_milestone_plan` ON `plan_milestone` (`plan_id`,`on`);--> statement-breakpoint
CREATE TABLE `plan_part` (
	`plan_id` integer NOT NULL,
	`part` text NOT NULL,
	`text` text DEFAULT '' NOT NULL,
	PRIMARY KEY(`plan_id`, `part`),
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `plan_person` (
	`plan_id` integer NOT NULL,
	`person_id` text NOT NULL,
	`part` text DEFAULT '' NOT NULL,
	PRIMARY KEY(`plan_id`, `person_id`),
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `plan_risk` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`plan_id` integer NOT NULL,
	`position` integer NOT NULL,
	`title` text NOT NULL,
	`likelihood` integer NOT NULL,
	`impact` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `plan_risk_plan` ON `plan_risk` (`plan_id`,`position`);--> statement-breakpoint
CREATE TABLE `plan_risk_answer` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`risk_id` integer NOT NULL,
	`requirement_id` integer,
	`case_id` integer,
	FOREIGN KEY (`risk_id`) REFERENCES `plan_risk`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`requirement_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `plan_risk_answer_risk` ON `plan_risk_answer` (`risk_id`);