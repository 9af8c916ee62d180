CREATE TABLE `case_version` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`major` integer,
	`minor` integer,
	`state` text DEFAULT 'Draft' NOT NULL,
	`fingerprint` text NOT NULL,
	`preconditions` text DEFAULT '' NOT NULL,
	`parameters` text DEFAULT '[]' NOT NULL,
	`why` text DEFAULT '' NOT NULL,
	`created_at` integer NOT NULL,
	`created_by` text,
	`approved_at` integer,
	`approved_by` text,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `case_version_number` ON `case_version` (`case_id`,`major`,`minor`);--> statement-breakpoint
CREATE INDEX `case_version_working` ON `case_version` (`case_id`) WHERE major is null;--> statement-breakpoint
CREATE TABLE `data_row` (
	`version_id` integer NOT NULL,
	`row` integer NOT NULL,
	`values` text NOT NULL,
	PRIMARY KEY(`version_id`, `row`),
	FOREIGN KEY (`version_id`) REFERENCES `case_version`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `folder` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`parent_id` integer,
	`name` text NOT NULL,
	`position` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`parent_id`) REFERENCES `folder`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `folder_name` ON `folder` (`project_id`,`parent_id`,`name`) WHERE deleted_at is null;--> statement-breakpoint
CREATE TABLE `link` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`requirement_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`step_id` integer,
	`from_at` integer NOT NULL,
	`until_at` integer,
	`confirmed_revision` integer NOT NULL,
	`confirmed_version_id` integer,
	`person_id` text,
	FOREIGN KEY (`requirement_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`step_id`) REFERENCES `step`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `link_requirement` ON `link` (`requirement_id`,`until_at`);--> statement-breakpoint
CREATE INDEX `link_case` ON `link` (`case_id`,`until_at`);--> statement-breakpoint
CREATE INDEX `link_project` ON `link` (`project_id`) WHERE until_at is null;--> statement-breakpoint
CREATE TABLE `step` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `test_case` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`number` integer NOT NULL,
	`folder_id` integer,
	`position` integer NOT NULL,
	`title` text NOT NULL,
	`objective` text DEFAULT '' NOT NULL,
	`type` text DEFAULT 'Functional' NOT NULL,
	`component` text DEFAULT '' NOT NULL,
	`importance` text DEFAULT 'Medium' NOT NULL,
	`owner_id` text,
	`automation` text DEFAULT 'Manual' NOT NULL,
	`estimate` integer,
	`newest_version_id` integer,
	`approved_version_id` integer,
	`steps` integer DEFAULT 0 NOT NULL,
	`state` text DEFAULT 'Draft' NOT NULL,
	`version` integer DEFAULT 1 NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`retired_at` integer,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`folder_id`) REFERENCES `folder`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `case_number` ON `test_case` (`project_id`,`number`);--> statement-breakpoint
CREATE INDEX `case_live` ON `test_case` (`project_id`,`number`) WHERE deleted_at is null;--> statement-breakpoint
CREATE INDEX `case_review` ON `test_case` (`project_id`,`updated_at`) WHERE state = 'In review' and deleted_at is null;--> statement-breakpoint
CREATE INDEX `case_created` ON `test_case` (`project_id`,`created_at`);--> statement-breakpoint
CREATE INDEX `case_folder` ON `test_case` (`project_id`,`folder_id`,`position`);--> statement-breakpoint
CREATE TABLE `version_step` (
	`version_id` integer NOT NULL,
	`position` integer NOT NULL,
	`step_id` integer NOT NULL,
	`action` text DEFAULT '' NOT NULL,
	`expected` text DEFAULT '' NOT NULL,
	`data` text DEFAULT '' NOT NULL,
	PRIMARY KEY(`version_id`, `position`),
	FOREIGN KEY (`version_id`) REFERENCES `case_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`step_id`) REFERENCES `step`(`id`) ON UPDATE no action ON DELETE no action
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `defect` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`number` integer NOT NULL,
	`title` text NOT NULL,
	`text` text DEFAULT '' NOT NULL,
	`steps` text DEFAULT '' NOT NULL,
	`severity` text NOT NULL,
	`priority` integer DEFAULT 3 NOT NULL,
	`state` text DEFAULT 'Reported' NOT NULL,
	`component` text DEFAULT '' NOT NULL,
	`found_in_build_id` integer,
	`fixed_in_build_id` integer,
	`environment_id` integer,
	`owner_id` text,
	`reporter_id` text,
	`outside_ref` text DEFAULT '' NOT NULL,
	`version` integer DEFAULT 1 NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `defect_number` ON `defect` (`project_id`,`number`);--> statement-breakpoint
CREATE INDEX `defect_state` ON `defect` (`project_id`,`state`);--> statement-breakpoint
CREATE TABLE `defect_link` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`defect_id` integer NOT NULL,
	`attempt_id` integer,
	`row` integer,
	`step_id` integer,
	`item_id` integer,
	`case_id` integer,
	`requirement_id` integer,
	`from_at` integer NOT NULL,
	`until_at` integer,
	FOREIGN KEY (`defect_id`) REFERENCES `defect`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `defect_link_defect` ON `defect_link` (`defect_id`);--> statement-breakpoint
CREATE INDEX `defect_link_attempt` ON `defect_link` (`attempt_id`);--> statement-breakpoint
CREATE INDEX `defect_link_case` ON `defect_link` (`case_id`);--> statement-breakpoint
CREATE INDEX `defect_link_requirement` ON `defect_link` (`requirement_id`);--> statement-breakpoint
CREATE TABLE `defect_state_at` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`defect_id` integer NOT NULL,
	`state` text NOT NULL,
	`fixed_in_build_id` integer,
	`at` integer NOT NULL,
	`person_id` text,
	FOREIGN KEY (`defect_id`) REFERENCES `defect`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `defect_state_at_defect` ON `defect_state_at` (`defect_id`,`at`);--> statement-breakpoint
CREATE TABLE `account` (
	`id` text PRIMARY KEY NOT NULL,
	`account_id` text NOT NULL,
	`provider_id` text NOT NULL,
	`user_id` text NOT NULL,
	`access_token` text,
	`refresh_token` text,
	`id_token` text,
	`access_token_expires_at` integer,
	`refresh_token_expires_at` integer,
	`scope` text,
	`password` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`user_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `account_person` ON `account` (`user_id`);--> statement-breakpoint
CREATE TABLE `api_token` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`person_id` text NOT NULL,
	`project_id` integer,
	`name` text NOT NULL,
	`hash` text NOT NULL,
	`created_at` integer NOT NULL,
	`last_used_at` integer,
	`revoked_at` integer,
	FOREIGN KEY (`person_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `api_token_hash_unique` ON `api_token` (`hash`);--> statement-breakpoint
CREATE TABLE `change` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`at` integer NOT NULL,
	`person_id` text,
	`kind` text NOT NULL,
	`owner_id` integer NOT NULL,
	`ref` text NOT NULL,
	`action` text NOT NULL,
	`detail` text
);
--> statement-breakpoint
CREATE INDEX `change_owner` ON `change` (`kind`,`owner_id`,`id`);--> statement-breakpoint
CREATE INDEX `change_project` ON `change` (`project_id`,`id`);--> statement-breakpoint
CREATE TABLE `idempotency_key` (
	`person_id` text NOT NULL,
	`key` text NOT NULL,
	`request` text NOT NULL,
	`body_hash` text NOT NULL,
	`status` integer NOT NULL,
	`answer` text NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`person_id`, `key`)
);
--> statement-breakpoint
CREATE INDEX `idempotency_at` ON `idempotency_key` (`at`);--> statement-breakpoint
CREATE TABLE `membership` (
	`project_id` integer NOT NULL,
	`person_id` text NOT NULL,
	`role` text NOT NULL,
	`minutes_per_day` integer DEFAULT 300 NOT NULL,
	`skills` text DEFAULT '' NOT NULL,
	PRIMARY KEY(`project_id`, `person_id`),
	FOREIGN KEY (`person_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE no action
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `person` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`email` text NOT NULL,
	`email_verified` integer DEFAULT true NOT NULL,
	`image` text,
	`administrator` integer DEFAULT false NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `person_email_unique` ON `person` (`email`);--> statement-breakpoint
CREATE TABLE `setting` (
	`name` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `sign_in` (
	`id` text PRIMARY KEY NOT NULL,
	`token` text NOT NULL,
	`user_id` text NOT NULL,
	`expires_at` integer NOT NULL,
	`ip_address` text,
	`user_agent` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`user_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `sign_in_token_unique` ON `sign_in` (`token`);--> statement-breakpoint
CREATE INDEX `sign_in_person` ON `sign_in` (`user_id`);--> statement-breakpoint
CREATE TABLE `verification` (
	`id` text PRIMARY KEY NOT NULL,
	`identifier` text NOT NULL,
	`value` text NOT NULL,
	`expires_at` integer NOT NULL,
	`created_at` integer,
	`updated_at` integer
);
--> statement-breakpoint
CREATE TABLE `plan` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`number` integer NOT NULL,
	`title` text NOT NULL,
	`objective` text DEFAULT '' NOT NULL,
	`state` text DEFAULT 'Drafting' NOT NULL,
	`release_id` integer NOT NULL,
	`iteration_id` integer,
	`version` integer DEFAULT 1 NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`release_id`) REFERENCES `release`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`iteration_id`) REFERENCES `iteration`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `plan_number` ON `plan` (`project_id`,`number`);--> statement-breakpoint
CREATE TABLE `plan_environment` (
	`plan_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	PRIMARY KEY(`plan_id`, `environment_id`),
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`environment_id`) REFERENCES `environment`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `plan_suite` (
	`plan_id` integer NOT NULL,
	`suite_id` integer NOT NULL,
	`position` integer NOT NULL,
	PRIMARY KEY(`plan_id`, `suite_id`),
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `suite` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`number` integer NOT NULL,
	`title` text NOT NULL,
	`objective` text DEFAULT '' NOT NULL,
	`state` text DEFAULT 'Drafting' NOT NULL,
	`version` integer DEFAULT 1 NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `suite_number` ON `suite` (`project_id`,`number`);--> statement-breakpoint
CREATE TABLE `suite_pin` (
	`suite_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`position` integer NOT NULL,
	PRIMARY KEY(`suite_id`, `case_id`),
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `alias` (
	`project_id` integer NOT NULL,
	`key` text NOT NULL,
	`kind` text NOT NULL,
	`owner_id` integer NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`project_id`, `key`)
);
--> statement-breakpoint
CREATE TABLE `build` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`release_id` integer NOT NULL,
	`position` integer NOT NULL,
	`name` text NOT NULL,
	`state` text NOT NULL,
	`offered_at` integer NOT NULL,
	`ended_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`release_id`) REFERENCES `release`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `build_name` ON `build` (`project_id`,`name`);--> statement-breakpoint
CREATE UNIQUE INDEX `build_position` ON `build` (`project_id`,`position`);--> statement-breakpoint
CREATE TABLE `counter` (
	`project_id` integer NOT NULL,
	`prefix` text NOT NULL,
	`next` integer NOT NULL,
	PRIMARY KEY(`project_id`, `prefix`)
);
--> statement-breakpoint
CREATE TABLE `custom_field` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`owner_kind` text NOT NULL,
	`name` text NOT NULL,
	`kind` text NOT NULL,
	`required` integer DEFAULT false NOT NULL,
	`choices` text DEFAULT '' NOT NULL,
	`position` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `custom_field_name` ON `custom_field` (`project_id`,`owner_kind`,`name`) WHERE deleted_at is null;--> statement-breakpoint
CREATE TABLE `custom_value` (
	`field_id` integer NOT NULL,
	`owner_id` integer NOT NULL,
	`position` integer DEFAULT 0 NOT NULL,
	`text` text,
	`number` real,
	`date` text,
	`person` text,
	PRIMARY KEY(`field_id`, `owner_id`, `position`),
	FOREIGN KEY (`field_id`) REFERENCES `custom_field`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `custom_text` ON `custom_value` (`field_id`,`text`);--> statement-breakpoint
CREATE INDEX `custom_number` ON `custom_value` (`field_id`,`number`);--> statement-breakpoint
CREATE INDEX `custom_date` ON `custom_value` (`field_id`,`date`);--> statement-breakpoint
CREATE TABLE `environment` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`position` integer NOT NULL,
	`name` text NOT NULL,
	`is_any` integer DEFAULT false NOT NULL,
	`seats` integer,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `environment_name` ON `environment` (`project_id`,`name`) WHERE deleted_at is null;--> statement-breakpoint
CREATE TABLE `environment_value` (
	`environment_id` integer NOT NULL,
	`factor` text NOT NULL,
	`value` text NOT NULL,
	PRIMARY KEY(`environment_id`, `factor`),
	FOREIGN KEY (`environment_id`) REFERENCES `environment`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `iteration` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`release_id` integer NOT NULL,
	`position` integer NOT NULL,
	`name` text NOT NULL,
	`start_on` text,
	`due_on` text,
	`deleted_at` integer,
	FOREIGN KEY (`release_id`) REFERENCES `release`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `iteration_name` ON `iteration` (`release_id`,`name`) WHERE deleted_at is null;--> statement-breakpoint
CREATE TABLE `project` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`key` text NOT NULL,
	`name` text NOT NULL,
	`product` text NOT NULL,
	`time_zone` text DEFAULT 'UTC' NOT NULL,
	`working_days` text DEFAULT '1,2,3,4,5' NOT NULL,
	`freshness_days` real DEFAULT 14 NOT NULL,
	`approval_required` integer DEFAULT false NOT NULL,
	`structure_version` integer DEFAULT 1 NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `project_key_unique` ON `project` (`key`);--> statement-breakpoint
CREATE TABLE `release` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`position` integer NOT NULL,
	`name` text NOT NULL,
	`state` text NOT NULL,
	`start_on` text,
	`due_on` text,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `release_name` ON `release` (`project_id`,`name`) WHERE deleted_at is null;--> statement-breakpoint
CREATE TABLE `saved_view` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`list` text NOT NULL,
	`name` text NOT NULL,
	`owner_id` text NOT NULL,
	`shared` integer DEFAULT false NOT NULL,
	`query` text NOT NULL,
	`version` integer DEFAULT 1 NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `saved_view_list` ON `saved_view` (`project_id`,`list`);--> statement-breakpoint
CREATE TABLE `tagging` (
	`project_id` integer NOT NULL,
	`owner_kind` text NOT NULL,
	`owner_id` integer NOT NULL,
	`tag` text NOT NULL,
	PRIMARY KEY(`owner_kind`, `owner_id`, `tag`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE INDEX `tagging_tag` ON `tagging` (`project_id`,`tag`);--> statement-breakpoint
CREATE TABLE `verdict_kind` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`word` text NOT NULL,
	`counts_as` text NOT NULL,
	`final` integer DEFAULT false NOT NULL,
	`for_items` integer DEFAULT false NOT NULL,
	`for_steps` integer DEFAULT false NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `requirement` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`number` integer NOT NULL,
	`parent_id` integer,
	`position` integer NOT NULL,
	`title` text NOT NULL,
	`text` text DEFAULT '' NOT NULL,
	`revision` integer DEFAULT 1 NOT NULL,
	`kind` text DEFAULT 'Function' NOT NULL,
	`component` text DEFAULT '' NOT NULL,
	`state` text DEFAULT 'Draft' NOT NULL,
	`likelihood` integer,
	`impact` integer,
	`owner_id` text,
	`outside_ref` text DEFAULT '' NOT NULL,
	`outside_url` text DEFAULT '' NOT NULL,
	`version` integer DEFAULT 1 NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`parent_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `requirement_number` ON `requirement` (`project_id`,`number`);--> statement-breakpoint
CREATE INDEX `requirement_parent` ON `requirement` (`project_id`,`parent_id`,`position`);--> statement-breakpoint
CREATE TABLE `requirement_revision` (
	`requirement_id` integer NOT NULL,
	`revision` integer NOT NULL,
	`title` text NOT NULL,
	`text` text NOT NULL,
	`at` integer NOT NULL,
	`person_id` text,
	PRIMARY KEY(`requirement_id`, `revision`),
	FOREIGN KEY (`requirement_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `requirement_target` (
	`requirement_id` integer NOT NULL,
	`release_id` integer NOT NULL,
	`iteration_id` integer,
	PRIMARY KEY(`requirement_id`, `release_id`),
	FOREIGN KEY (`requirement_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`release_id`) REFERENCES `release`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`iteration_id`) REFERENCES `iteration`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `requirement_target_release` ON `requirement_target` (`release_id`);--> statement-breakpoint
CREATE TABLE `attempt` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`version_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	`build_id` integer NOT NULL,
	`item_id` integer,
	`person_id` text,
	`by_machine` integer DEFAULT false NOT NULL,
	`verdict` text DEFAULT 'Not run' NOT NULL,
	`final` integer DEFAULT false NOT NULL,
	`whole_verdict` text,
	`override_reason` text,
	`started_at` integer NOT NULL,
	`finished_at` integer,
	`seconds` integer DEFAULT 0 NOT NULL,
	`comment` text DEFAULT '' NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`version_id`) REFERENCES `case_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`environment_id`) REFERENCES `environment`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`build_id`) REFERENCES `build`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `attempt_case` ON `attempt` (`case_id`,`environment_id`,`build_id`,`finished_at`);--> statement-breakpoint
CREATE INDEX `attempt_item` ON `attempt` (`item_id`);--> statement-breakpoint
CREATE INDEX `attempt_build` ON `attempt` (`build_id`,`finished_at`);--> statement-breakpoint
CREATE INDEX `attempt_finished` ON `attempt` (`project_id`,`finished_at`);--> statement-breakpoint
CREATE TABLE `attempt_row` (
	`attempt_id` integer NOT NULL,
	`row` integer NOT NULL,
	`values` text NOT NULL,
	PRIMARY KEY(`attempt_id`, `row`),
	FOREIGN KEY (`attempt_id`) REFERENCES `attempt`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `attempt_step` (
	`attempt_id` integer NOT NULL,
	`row` integer NOT NULL,
	`step_id` integer NOT NULL,
	`verdict` text NOT NULL,
	`word` text,
	`final` integer DEFAULT true NOT NULL,
	`comment` text DEFAULT '' NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`attempt_id`, `row`, `step_id`),
	FOREIGN KEY (`attempt_id`) REFERENCES `attempt`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`step_id`) REFERENCES `step`(`id`) ON UPDATE no action ON DELETE no action
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `item` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`run_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	`position` integer NOT NULL,
	`assignee_id` text,
	`estimate` integer,
	`due_on` text,
	`verdict` text DEFAULT 'Not run' NOT NULL,
	`attempt_id` integer,
	`deleted_at` integer,
	FOREIGN KEY (`run_id`) REFERENCES `run`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`environment_id`) REFERENCES `environment`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `item_slot` ON `item` (`run_id`,`case_id`,`environment_id`) WHERE deleted_at is null;--> statement-breakpoint
CREATE INDEX `item_assignee` ON `item` (`assignee_id`,`verdict`);--> statement-breakpoint
CREATE INDEX `item_case` ON `item` (`case_id`);--> statement-breakpoint
CREATE TABLE `quarantine` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`environment_id` integer,
	`reason` text NOT NULL,
	`person_id` text NOT NULL,
	`from_at` integer NOT NULL,
	`until_at` integer,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `quarantine_case` ON `quarantine` (`case_id`);--> statement-breakpoint
CREATE TABLE `run` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`number` integer NOT NULL,
	`title` text NOT NULL,
	`plan_id` integer,
	`release_id` integer NOT NULL,
	`build_id` integer NOT NULL,
	`state` text DEFAULT 'Planned' NOT NULL,
	`start_on` text NOT NULL,
	`end_on` text NOT NULL,
	`version` integer DEFAULT 1 NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`release_id`) REFERENCES `release`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`build_id`) REFERENCES `build`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `run_number` ON `run` (`project_id`,`number`);--> statement-breakpoint
CREATE INDEX `run_release` ON `run` (`release_id`);--> statement-breakpoint
CREATE TABLE `run_person` (
	`run_id` integer NOT NULL,
	`person_id` text NOT NULL,
	PRIMARY KEY(`run_id`, `person_id`),
	FOREIGN KEY (`run_id`) REFERENCES `run`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `standing_result` (
	`build_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	`attempt_id` integer NOT NULL,
	`verdict` text NOT NULL,
	`finished_at` integer NOT NULL,
	`fingerprint` text NOT NULL,
	`disputed_by` integer,
	PRIMARY KEY(`build_id`, `case_id`, `environment_id`)
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `verdict_event` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`attempt_id` integer NOT NULL,
	`client_id` text NOT NULL,
	`sequence` integer NOT NULL,
	`person_id` text NOT NULL,
	`change` text NOT NULL,
	`undoes` integer,
	`at` integer NOT NULL,
	`received_at` integer NOT NULL,
	FOREIGN KEY (`attempt_id`) REFERENCES `attempt`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `verdict_event_once` ON `verdict_event` (`client_id`,`sequence`);--> statement-breakpoint
CREATE INDEX `verdict_event_attempt` ON `verdict_event` (`attempt_id`,`id`);--> statement-breakpoint
CREATE TABLE `attachment` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`owner_kind` text NOT NULL,
	`owner_id` integer NOT NULL,
	`row` integer,
	`step_id` integer,
	`hash` text NOT NULL,
	`name` text NOT NULL,
	`mime` text NOT NULL,
	`size` integer NOT NULL,
	`at` integer NOT NULL,
	`person_id` text,
	`deleted_at` integer
);
--> statement-breakpoint
CREATE INDEX `attachment_owner` ON `attachment` (`owner_kind`,`owner_id`);--> statement-breakpoint
CREATE INDEX `attachment_hash` ON `attachment` (`hash`);--> statement-breakpoint
CREATE TABLE `comment` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`owner_kind` text NOT NULL,
	`owner_id` integer NOT NULL,
	`step_id` integer,
	`text` text NOT NULL,
	`at` integer NOT NULL,
	`person_id` text NOT NULL,
	`edited_at` integer,
	`deleted_at` integer
);
--> statement-breakpoint
CREATE INDEX `comment_owner` ON `comment` (`owner_kind`,`owner_id`);