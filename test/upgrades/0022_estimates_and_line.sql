CREATE TABLE __drizzle_migrations (id SERIAL PRIMARY KEY, hash text NOT NULL, created_at numeric);
CREATE TABLE `absence` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`person_id` text NOT NULL,
	`start_on` text NOT NULL,
	`end_on` text NOT NULL,
	`minutes` integer,
	`reason` text DEFAULT '' NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE no action
);
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
CREATE TABLE `alias` (
	`project_id` integer NOT NULL,
	`key` text NOT NULL,
	`kind` text NOT NULL,
	`owner_id` integer NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`project_id`, `key`)
);
CREATE TABLE `api_token` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`person_id` text NOT NULL,
	`project_id` integer,
	`name` text NOT NULL,
	`hash` text NOT NULL,
	`created_at` integer NOT NULL,
	`last_used_at` integer,
	`revoked_at` integer, `scope` text DEFAULT 'write' NOT NULL, `ends_at` integer,
	FOREIGN KEY (`person_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE no action
);
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
	`comment` text DEFAULT '' NOT NULL, `build_by` text DEFAULT 'run' NOT NULL, `expected_build_id` integer REFERENCES build(id), `doubt` text, `whole_word` text, `whole_final` integer DEFAULT true NOT NULL, `word` text, `reason` text, `policy_id` integer, `doubt_id` integer, `struck` text, `timing` text DEFAULT 'clock' NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`version_id`) REFERENCES `case_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`environment_id`) REFERENCES `environment`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`build_id`) REFERENCES `build`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `attempt_row` (
	`attempt_id` integer NOT NULL,
	`row` integer NOT NULL,
	`values` text NOT NULL, `origin` integer,
	PRIMARY KEY(`attempt_id`, `row`),
	FOREIGN KEY (`attempt_id`) REFERENCES `attempt`(`id`) ON UPDATE no action ON DELETE no action
);
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
CREATE TABLE `build` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`release_id` integer NOT NULL,
	`position` integer NOT NULL,
	`name` text NOT NULL,
	`state` text NOT NULL,
	`offered_at` integer NOT NULL,
	`ended_at` integer, `notes` text DEFAULT '' NOT NULL, `touches` text,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`release_id`) REFERENCES `release`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `case_need` (
	`version_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	PRIMARY KEY(`version_id`, `case_id`),
	FOREIGN KEY (`version_id`) REFERENCES `case_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
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
	`approved_by` text, `environment` text DEFAULT '' NOT NULL, `table_id` integer REFERENCES data_table(id), `table_mode` text,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
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
, `part` text);
CREATE TABLE `counter` (
	`project_id` integer NOT NULL,
	`prefix` text NOT NULL,
	`next` integer NOT NULL,
	PRIMARY KEY(`project_id`, `prefix`)
);
CREATE TABLE `custom_field` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`owner_kind` text NOT NULL,
	`name` text NOT NULL,
	`kind` text NOT NULL,
	`required` integer DEFAULT false NOT NULL,
	`choices` text DEFAULT '' NOT NULL,
	`position` integer NOT NULL,
	`deleted_at` integer, `types` text DEFAULT '' NOT NULL,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
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
CREATE TABLE `data_row` (
	`version_id` integer NOT NULL,
	`row` integer NOT NULL,
	`values` text NOT NULL,
	PRIMARY KEY(`version_id`, `row`),
	FOREIGN KEY (`version_id`) REFERENCES `case_version`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `data_row_use` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`row_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	`attempt_id` integer,
	`at` integer NOT NULL,
	`filled_at` integer
);
CREATE TABLE `data_table` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`name` text NOT NULL,
	`columns` text DEFAULT '[]' NOT NULL,
	`version` integer DEFAULT 1 NOT NULL,
	`deleted_at` integer, `used_up` integer DEFAULT false NOT NULL,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
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
CREATE TABLE `defect_state_at` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`defect_id` integer NOT NULL,
	`state` text NOT NULL,
	`fixed_in_build_id` integer,
	`at` integer NOT NULL,
	`person_id` text,
	FOREIGN KEY (`defect_id`) REFERENCES `defect`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `doubt_act` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`reason` text NOT NULL,
	`attempts` integer NOT NULL,
	`person_id` text NOT NULL,
	`at` integer NOT NULL,
	`lifted_at` integer,
	`lifted_by_id` text
);
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
CREATE TABLE `draft_model_revision` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`model_id` integer NOT NULL,
	`revision` integer NOT NULL,
	`body` text NOT NULL,
	`at` integer NOT NULL,
	`person_id` text,
	FOREIGN KEY (`model_id`) REFERENCES `draft_model`(`id`) ON UPDATE no action ON DELETE no action
);
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
CREATE TABLE `environment` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`position` integer NOT NULL,
	`name` text NOT NULL,
	`is_any` integer DEFAULT false NOT NULL,
	`seats` integer,
	`deleted_at` integer, `owner_id` text, `address` text DEFAULT '' NOT NULL, `notes` text DEFAULT '' NOT NULL,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `environment_value` (
	`environment_id` integer NOT NULL,
	`factor` text NOT NULL,
	`value` text NOT NULL,
	PRIMARY KEY(`environment_id`, `factor`),
	FOREIGN KEY (`environment_id`) REFERENCES `environment`(`id`) ON UPDATE no action ON DELETE no action
);
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
CREATE TABLE `group_member` (
	`group_id` integer NOT NULL,
	`person_id` text NOT NULL,
	PRIMARY KEY(`group_id`, `person_id`),
	FOREIGN KEY (`group_id`) REFERENCES `person_group`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `group_role` (
	`group_id` integer NOT NULL,
	`project_id` integer NOT NULL,
	`role` text NOT NULL,
	PRIMARY KEY(`group_id`, `project_id`),
	FOREIGN KEY (`group_id`) REFERENCES `person_group`(`id`) ON UPDATE no action ON DELETE cascade
);
CREATE TABLE `holiday` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`day` text NOT NULL,
	`name` text NOT NULL,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
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
CREATE TABLE `import_mapping` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`name` text NOT NULL,
	`mapping` text NOT NULL,
	`person_id` text,
	`at` integer NOT NULL,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `import_origin` (
	`project_id` integer NOT NULL,
	`owner_kind` text NOT NULL,
	`source` text NOT NULL,
	`outside_id` text NOT NULL,
	`owner_id` integer NOT NULL,
	PRIMARY KEY(`project_id`, `owner_kind`, `source`, `outside_id`)
);
CREATE TABLE `installation` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	`build_id` integer,
	`from_at` integer NOT NULL,
	`note` text DEFAULT '' NOT NULL,
	`person_id` text,
	`said_at` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`environment_id`) REFERENCES `environment`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`build_id`) REFERENCES `build`(`id`) ON UPDATE no action ON DELETE no action
);
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
	`deleted_at` integer, `reasons` text DEFAULT '' NOT NULL, `dropped_reason` text DEFAULT '' NOT NULL, `fingerprint` text, `people` integer DEFAULT 1 NOT NULL, `passes` integer DEFAULT 1 NOT NULL, `held` text,
	FOREIGN KEY (`run_id`) REFERENCES `run`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`environment_id`) REFERENCES `environment`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `item_place` (
	`item_id` integer PRIMARY KEY NOT NULL,
	`person_id` text NOT NULL,
	`day` text NOT NULL,
	`start` integer NOT NULL,
	`minutes` integer NOT NULL,
	`pinned` integer DEFAULT false NOT NULL,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE no action
);
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
	`person_id` text, `quote` text DEFAULT '' NOT NULL,
	FOREIGN KEY (`requirement_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`step_id`) REFERENCES `step`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `membership` (
	`project_id` integer NOT NULL,
	`person_id` text NOT NULL,
	`role` text NOT NULL,
	`skills` text DEFAULT '' NOT NULL, `given_role` text, `share_percent` real DEFAULT 100 NOT NULL,
	PRIMARY KEY(`project_id`, `person_id`),
	FOREIGN KEY (`person_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE no action
) WITHOUT ROWID;
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
CREATE TABLE `notice_letter` (
	`notice_id` integer PRIMARY KEY NOT NULL,
	`due_at` integer,
	`tries` integer DEFAULT 0 NOT NULL,
	`sent_at` integer,
	`problem` text DEFAULT '' NOT NULL
);
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
CREATE TABLE `person` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`email` text NOT NULL,
	`email_verified` integer DEFAULT true NOT NULL,
	`image` text,
	`administrator` integer DEFAULT false NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
, `two_factor_enabled` integer DEFAULT false NOT NULL, `language` text DEFAULT 'en-GB' NOT NULL, `time_zone` text, `working_minutes` integer DEFAULT 480 NOT NULL, `free_percent` real DEFAULT 60 NOT NULL, `ended_at` integer, `letters` text DEFAULT '' NOT NULL, `after_verdict` text DEFAULT 'next' NOT NULL);
CREATE TABLE `person_group` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`name` text NOT NULL
);
CREATE TABLE `person_picture` (
	`person_id` text PRIMARY KEY NOT NULL,
	`mime` text NOT NULL,
	`bytes` blob NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE no action
);
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
	`deleted_at` integer, `frozen_version_id` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`release_id`) REFERENCES `release`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`iteration_id`) REFERENCES `iteration`(`id`) ON UPDATE no action ON DELETE no action
);
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
CREATE TABLE `plan_branch` (
	`plan_id` integer NOT NULL,
	`requirement_id` integer NOT NULL,
	`inside` integer DEFAULT false NOT NULL,
	`reason` text DEFAULT '' NOT NULL,
	PRIMARY KEY(`plan_id`, `requirement_id`),
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`requirement_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action
);
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
CREATE TABLE `plan_deal` (
	`plan_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	PRIMARY KEY(`plan_id`, `case_id`),
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`environment_id`) REFERENCES `environment`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `plan_environment` (
	`plan_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	PRIMARY KEY(`plan_id`, `environment_id`),
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`environment_id`) REFERENCES `environment`(`id`) ON UPDATE no action ON DELETE no action
);
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
CREATE TABLE `plan_part` (
	`plan_id` integer NOT NULL,
	`part` text NOT NULL,
	`text` text DEFAULT '' NOT NULL,
	PRIMARY KEY(`plan_id`, `part`),
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `plan_person` (
	`plan_id` integer NOT NULL,
	`person_id` text NOT NULL,
	`part` text DEFAULT '' NOT NULL,
	PRIMARY KEY(`plan_id`, `person_id`),
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action
);
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
CREATE TABLE `plan_risk_answer` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`risk_id` integer NOT NULL,
	`requirement_id` integer,
	`case_id` integer,
	FOREIGN KEY (`risk_id`) REFERENCES `plan_risk`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`requirement_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `plan_signature` (
	`version_id` integer NOT NULL,
	`person_id` text NOT NULL,
	`answer` text,
	`words` text DEFAULT '' NOT NULL,
	`at` integer,
	PRIMARY KEY(`version_id`, `person_id`),
	FOREIGN KEY (`version_id`) REFERENCES `plan_version`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `plan_suite` (
	`plan_id` integer NOT NULL,
	`suite_id` integer NOT NULL,
	`position` integer NOT NULL,
	PRIMARY KEY(`plan_id`, `suite_id`),
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `plan_version` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`plan_id` integer NOT NULL,
	`number` integer NOT NULL,
	`state` text NOT NULL,
	`definition` text NOT NULL,
	`note` text DEFAULT '' NOT NULL,
	`person_id` text,
	`at` integer NOT NULL,
	`ended_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `plan_version_slot` (
	`version_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`place` integer NOT NULL,
	`environments` text NOT NULL,
	PRIMARY KEY(`version_id`, `case_id`, `place`),
	FOREIGN KEY (`version_id`) REFERENCES `plan_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `policy` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`decides` text NOT NULL,
	`records` text NOT NULL,
	`opens` text NOT NULL,
	`asked` text NOT NULL,
	`closes` text NOT NULL,
	`amends` text NOT NULL,
	`amend_days` integer NOT NULL,
	`approved_only` integer DEFAULT false NOT NULL,
	`spoiled_by_case` integer DEFAULT false NOT NULL,
	`spoiled_by_build` integer DEFAULT false NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
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
, `reason_asked` integer DEFAULT false NOT NULL, `second_factor_asked` integer DEFAULT false NOT NULL, `suites_noticed` integer DEFAULT 0 NOT NULL, `factors` text DEFAULT '' NOT NULL, `factor_rules` text DEFAULT '' NOT NULL, `paths` text DEFAULT '' NOT NULL, `smoke_suite_id` integer, `policy_id` integer, `dealing` text DEFAULT 'evenly' NOT NULL, `switch_minutes` integer DEFAULT 0 NOT NULL, `reserve_percent` real DEFAULT 0 NOT NULL, `worth_weights` text DEFAULT '' NOT NULL);
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
	`deleted_at` integer, `priority` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`parent_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action
);
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
CREATE TABLE `requirement_target` (
	`requirement_id` integer NOT NULL,
	`release_id` integer NOT NULL,
	`iteration_id` integer,
	PRIMARY KEY(`requirement_id`, `release_id`),
	FOREIGN KEY (`requirement_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`release_id`) REFERENCES `release`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`iteration_id`) REFERENCES `iteration`(`id`) ON UPDATE no action ON DELETE no action
);
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
CREATE TABLE `routine_step` (
	`version_id` integer NOT NULL,
	`position` integer NOT NULL,
	`key` integer NOT NULL,
	`action` text DEFAULT '' NOT NULL,
	`expected` text DEFAULT '' NOT NULL,
	`data` text DEFAULT '' NOT NULL,
	`use_routine_version_id` integer,
	`use_case_version_id` integer,
	`use_values` text DEFAULT '' NOT NULL, `evidence` integer DEFAULT false NOT NULL,
	PRIMARY KEY(`version_id`, `position`),
	FOREIGN KEY (`version_id`) REFERENCES `routine_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`use_routine_version_id`) REFERENCES `routine_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`use_case_version_id`) REFERENCES `case_version`(`id`) ON UPDATE no action ON DELETE no action
);
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
	`deleted_at` integer, `closed_at` integer, `composed` text, `ended_reason` text DEFAULT '' NOT NULL, `policy_id` integer, `aim` text DEFAULT '' NOT NULL, `data_rows` text DEFAULT '' NOT NULL, `line_minutes` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`plan_id`) REFERENCES `plan`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`release_id`) REFERENCES `release`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`build_id`) REFERENCES `build`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `run_person` (
	`run_id` integer NOT NULL,
	`person_id` text NOT NULL,
	PRIMARY KEY(`run_id`, `person_id`),
	FOREIGN KEY (`run_id`) REFERENCES `run`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `run_suite` (
	`run_id` integer NOT NULL,
	`suite_id` integer NOT NULL,
	PRIMARY KEY(`run_id`, `suite_id`),
	FOREIGN KEY (`run_id`) REFERENCES `run`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action
);
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
CREATE VIRTUAL TABLE search USING fts5(title, body, project_id UNINDEXED, tokenize = 'trigram');
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
CREATE TABLE `setting` (
	`name` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
CREATE TABLE `sign_in` (
	`id` text PRIMARY KEY NOT NULL,
	`token` text NOT NULL,
	`user_id` text NOT NULL,
	`expires_at` integer NOT NULL,
	`ip_address` text,
	`user_agent` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL, `last_used_at` integer,
	FOREIGN KEY (`user_id`) REFERENCES `person`(`id`) ON UPDATE no action ON DELETE cascade
);
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
CREATE TABLE `standing_result` (
	`build_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`environment_id` integer NOT NULL,
	`attempt_id` integer NOT NULL,
	`verdict` text NOT NULL,
	`finished_at` integer NOT NULL,
	`fingerprint` text NOT NULL,
	`disputed_by` integer, `doubted` integer DEFAULT false NOT NULL,
	PRIMARY KEY(`build_id`, `case_id`, `environment_id`)
) WITHOUT ROWID;
CREATE TABLE `step` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL, `within_step_id` integer REFERENCES step(id), `inner_key` integer, `inner_step_id` integer REFERENCES step(id),
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
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
	`deleted_at` integer, `closed_reason` text DEFAULT '' NOT NULL, `ordered_by` text DEFAULT 'hand' NOT NULL, `case_count` integer DEFAULT 0 NOT NULL, `case_minutes` integer DEFAULT 0 NOT NULL,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `suite_exclusion` (
	`suite_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`reason` text NOT NULL,
	`person_id` text,
	`at` integer NOT NULL,
	PRIMARY KEY(`suite_id`, `case_id`),
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `suite_member` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`suite_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`sources` text NOT NULL,
	`from_at` integer NOT NULL,
	`until_at` integer,
	`from_by` text,
	`until_by` text,
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `suite_pin` (
	`suite_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`position` integer NOT NULL,
	PRIMARY KEY(`suite_id`, `case_id`),
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `suite_place` (
	`suite_id` integer NOT NULL,
	`case_id` integer NOT NULL,
	`position` integer NOT NULL,
	PRIMARY KEY(`suite_id`, `case_id`),
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`case_id`) REFERENCES `test_case`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `suite_source` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`suite_id` integer NOT NULL,
	`position` integer NOT NULL,
	`kind` text NOT NULL,
	`requirement_id` integer,
	`included_id` integer,
	`words` text DEFAULT '' NOT NULL,
	`filter` text DEFAULT '' NOT NULL,
	`minutes` integer,
	`frozen` text,
	`broken_at` integer,
	`created_at` integer NOT NULL,
	`deleted_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`suite_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`requirement_id`) REFERENCES `requirement`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`included_id`) REFERENCES `suite`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `tagging` (
	`project_id` integer NOT NULL,
	`owner_kind` text NOT NULL,
	`owner_id` integer NOT NULL,
	`tag` text NOT NULL,
	PRIMARY KEY(`owner_kind`, `owner_id`, `tag`)
) WITHOUT ROWID;
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
	`deleted_at` integer, `merged_into_id` integer, `from_release_id` integer, `from_iteration_id` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`folder_id`) REFERENCES `folder`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `tracker` (
	`project_id` integer PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`url` text NOT NULL,
	`token` text DEFAULT '' NOT NULL,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `verdict_event` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`attempt_id` integer NOT NULL,
	`client_id` text NOT NULL,
	`sequence` integer NOT NULL,
	`person_id` text NOT NULL,
	`change` text NOT NULL,
	`undoes` integer,
	`at` integer NOT NULL,
	`received_at` integer NOT NULL, `claimed_at` integer, `doubtful` integer DEFAULT false NOT NULL, `arrival` text DEFAULT 'in time' NOT NULL,
	FOREIGN KEY (`attempt_id`) REFERENCES `attempt`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `verdict_kind` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`word` text NOT NULL,
	`counts_as` text NOT NULL,
	`final` integer DEFAULT false NOT NULL,
	`for_items` integer DEFAULT false NOT NULL,
	`for_steps` integer DEFAULT false NOT NULL,
	`deleted_at` integer, `sign` text DEFAULT 'dot' NOT NULL, `tint` text DEFAULT 'grey' NOT NULL, `position` integer DEFAULT 0 NOT NULL, `retired_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `verdict_reason` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`project_id` integer NOT NULL,
	`verdict` text NOT NULL,
	`word` text NOT NULL,
	`position` integer DEFAULT 0 NOT NULL,
	`retired_at` integer,
	FOREIGN KEY (`project_id`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE no action
);
CREATE TABLE `verification` (
	`id` text PRIMARY KEY NOT NULL,
	`identifier` text NOT NULL,
	`value` text NOT NULL,
	`expires_at` integer NOT NULL,
	`created_at` integer,
	`updated_at` integer
);
CREATE TABLE `version_step` (
	`version_id` integer NOT NULL,
	`position` integer NOT NULL,
	`step_id` integer NOT NULL,
	`action` text DEFAULT '' NOT NULL,
	`expected` text DEFAULT '' NOT NULL,
	`data` text DEFAULT '' NOT NULL, `use_routine_version_id` integer REFERENCES routine_version(id), `use_case_version_id` integer REFERENCES case_version(id), `use_values` text DEFAULT '' NOT NULL, `evidence` integer DEFAULT false NOT NULL,
	PRIMARY KEY(`version_id`, `position`),
	FOREIGN KEY (`version_id`) REFERENCES `case_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`step_id`) REFERENCES `step`(`id`) ON UPDATE no action ON DELETE no action
) WITHOUT ROWID;
CREATE INDEX `absence_person` ON `absence` (`person_id`,`end_on`);
CREATE INDEX `account_person` ON `account` (`user_id`);
CREATE UNIQUE INDEX `api_token_hash_unique` ON `api_token` (`hash`);
CREATE INDEX `attachment_hash` ON `attachment` (`hash`);
CREATE INDEX `attachment_owner` ON `attachment` (`owner_kind`,`owner_id`);
CREATE INDEX `attempt_build` ON `attempt` (`build_id`,`finished_at`);
CREATE INDEX `attempt_case` ON `attempt` (`case_id`,`environment_id`,`build_id`,`finished_at`);
CREATE INDEX `attempt_doubt` ON `attempt` (`doubt_id`) WHERE doubt_id is not null;
CREATE INDEX `attempt_environment` ON `attempt` (`environment_id`,`started_at`);
CREATE INDEX `attempt_finished` ON `attempt` (`project_id`,`finished_at`);
CREATE INDEX `attempt_item` ON `attempt` (`item_id`);
CREATE INDEX `attempt_person` ON `attempt` (`person_id`,`project_id`,`finished_at`) WHERE final = 1;
CREATE INDEX `attempt_version` ON `attempt` (`version_id`);
CREATE UNIQUE INDEX `build_name` ON `build` (`project_id`,`name`);
CREATE UNIQUE INDEX `build_position` ON `build` (`project_id`,`position`);
CREATE INDEX `case_created` ON `test_case` (`project_id`,`created_at`);
CREATE INDEX `case_folder` ON `test_case` (`project_id`,`folder_id`,`position`);
CREATE INDEX `case_live` ON `test_case` (`project_id`,`number`) WHERE deleted_at is null;
CREATE UNIQUE INDEX `case_number` ON `test_case` (`project_id`,`number`);
CREATE INDEX `case_review` ON `test_case` (`project_id`,`updated_at`) WHERE state = 'In review' and deleted_at is null;
CREATE UNIQUE INDEX `case_template_name` ON `case_template` (`project_id`,`name`) WHERE deleted_at is null;
CREATE UNIQUE INDEX `case_version_number` ON `case_version` (`case_id`,`major`,`minor`);
CREATE INDEX `case_version_working` ON `case_version` (`case_id`) WHERE major is null;
CREATE INDEX `change_kind` ON `change` (`project_id`,`kind`,`id`);
CREATE INDEX `change_owner` ON `change` (`kind`,`owner_id`,`id`);
CREATE INDEX `change_person` ON `change` (`project_id`,`person_id`,`id`);
CREATE INDEX `change_project` ON `change` (`project_id`,`id`);
CREATE INDEX `checklist_item_project` ON `checklist_item` (`project_id`);
CREATE INDEX `checklist_item_requirement` ON `checklist_item` (`requirement_id`,`position`);
CREATE INDEX `comment_owner` ON `comment` (`owner_kind`,`owner_id`);
CREATE INDEX `custom_date` ON `custom_value` (`field_id`,`date`);
CREATE UNIQUE INDEX `custom_field_name` ON `custom_field` (`project_id`,`owner_kind`,`name`) WHERE deleted_at is null;
CREATE INDEX `custom_number` ON `custom_value` (`field_id`,`number`);
CREATE INDEX `custom_text` ON `custom_value` (`field_id`,`text`);
CREATE INDEX `data_row_use_row` ON `data_row_use` (`row_id`,`environment_id`);
CREATE UNIQUE INDEX `data_table_name` ON `data_table` (`project_id`,`name`) WHERE deleted_at is null;
CREATE INDEX `data_table_row_held` ON `data_table_row` (`held_attempt_id`) WHERE held_attempt_id is not null;
CREATE INDEX `data_table_row_table` ON `data_table_row` (`table_id`,`position`);
CREATE INDEX `defect_link_attempt` ON `defect_link` (`attempt_id`);
CREATE INDEX `defect_link_case` ON `defect_link` (`case_id`);
CREATE INDEX `defect_link_defect` ON `defect_link` (`defect_id`);
CREATE INDEX `defect_link_requirement` ON `defect_link` (`requirement_id`);
CREATE UNIQUE INDEX `defect_number` ON `defect` (`project_id`,`number`);
CREATE INDEX `defect_state` ON `defect` (`project_id`,`state`);
CREATE INDEX `defect_state_at_defect` ON `defect_state_at` (`defect_id`,`at`);
CREATE INDEX `doubt_act_project` ON `doubt_act` (`project_id`,`at`);
CREATE INDEX `draft_model_project` ON `draft_model` (`project_id`);
CREATE INDEX `draft_model_requirement` ON `draft_model` (`requirement_id`);
CREATE INDEX `draft_model_revision_model` ON `draft_model_revision` (`model_id`,`revision`);
CREATE INDEX `draft_row_case` ON `draft_row` (`case_id`);
CREATE INDEX `draft_row_model` ON `draft_row` (`model_id`);
CREATE UNIQUE INDEX `environment_name` ON `environment` (`project_id`,`name`) WHERE deleted_at is null;
CREATE UNIQUE INDEX `folder_name` ON `folder` (`project_id`,`parent_id`,`name`) WHERE deleted_at is null;
CREATE INDEX `group_member_person` ON `group_member` (`person_id`);
CREATE INDEX `holiday_project` ON `holiday` (`project_id`,`day`);
CREATE INDEX `idempotency_at` ON `idempotency_key` (`at`);
CREATE INDEX `import_act_project` ON `import_act` (`project_id`,`id`);
CREATE UNIQUE INDEX `import_mapping_name` ON `import_mapping` (`project_id`,`name`);
CREATE INDEX `import_origin_owner` ON `import_origin` (`owner_kind`,`owner_id`);
CREATE UNIQUE INDEX `installation_from` ON `installation` (`environment_id`,`from_at`) WHERE deleted_at is null;
CREATE INDEX `installation_project` ON `installation` (`project_id`,`from_at`);
CREATE INDEX `item_assignee` ON `item` (`assignee_id`,`verdict`);
CREATE INDEX `item_case` ON `item` (`case_id`);
CREATE INDEX `item_place_person` ON `item_place` (`person_id`,`day`);
CREATE UNIQUE INDEX `item_slot` ON `item` (`run_id`,`case_id`,`environment_id`) WHERE deleted_at is null;
CREATE INDEX `item_wait_defect` ON `item_wait` (`defect_id`);
CREATE INDEX `item_wait_item` ON `item_wait` (`item_id`);
CREATE INDEX `item_wait_other` ON `item_wait` (`other_item_id`);
CREATE UNIQUE INDEX `iteration_name` ON `iteration` (`release_id`,`name`) WHERE deleted_at is null;
CREATE INDEX `link_case` ON `link` (`case_id`,`until_at`);
CREATE UNIQUE INDEX link_once ON link (requirement_id, case_id, coalesce(step_id, 0)) WHERE until_at IS NULL;
CREATE INDEX `link_project` ON `link` (`project_id`) WHERE until_at is null;
CREATE INDEX `link_requirement` ON `link` (`requirement_id`,`until_at`);
CREATE INDEX `membership_person` ON `membership` (`person_id`);
CREATE INDEX `notice_letter_due` ON `notice_letter` (`due_at`);
CREATE INDEX `notice_person` ON `notice` (`person_id`,`project_id`,`read_at`);
CREATE INDEX `outage_environment` ON `outage` (`environment_id`,`from_at`);
CREATE INDEX `outage_project` ON `outage` (`project_id`,`from_at`);
CREATE INDEX `password_link_person` ON `password_link` (`person_id`);
CREATE UNIQUE INDEX `person_email_unique` ON `person` (`email`);
CREATE UNIQUE INDEX `person_group_name_unique` ON `person_group` (`name`);
CREATE INDEX `plan_ask_plan` ON `plan_ask` (`plan_id`);
CREATE INDEX `plan_criterion_plan` ON `plan_criterion` (`plan_id`,`position`);
CREATE INDEX `plan_milestone_plan` ON `plan_milestone` (`plan_id`,`on`);
CREATE UNIQUE INDEX `plan_number` ON `plan` (`project_id`,`number`);
CREATE INDEX `plan_risk_answer_risk` ON `plan_risk_answer` (`risk_id`);
CREATE INDEX `plan_risk_plan` ON `plan_risk` (`plan_id`,`position`);
CREATE INDEX `plan_signature_person` ON `plan_signature` (`person_id`);
CREATE UNIQUE INDEX `plan_version_number` ON `plan_version` (`plan_id`,`number`);
CREATE INDEX `policy_project` ON `policy` (`project_id`);
CREATE UNIQUE INDEX `project_key_unique` ON `project` (`key`);
CREATE INDEX `quarantine_case` ON `quarantine` (`case_id`);
CREATE UNIQUE INDEX `release_name` ON `release` (`project_id`,`name`) WHERE deleted_at is null;
CREATE UNIQUE INDEX `requirement_number` ON `requirement` (`project_id`,`number`);
CREATE INDEX `requirement_parent` ON `requirement` (`project_id`,`parent_id`,`position`);
CREATE INDEX `requirement_relation_from` ON `requirement_relation` (`from_id`);
CREATE INDEX `requirement_relation_to` ON `requirement_relation` (`to_id`);
CREATE INDEX `requirement_target_release` ON `requirement_target` (`release_id`);
CREATE INDEX `review_asked_case` ON `review_asked` (`case_id`);
CREATE INDEX `review_asked_person` ON `review_asked` (`person_id`) WHERE answer is null;
CREATE UNIQUE INDEX `routine_number` ON `routine` (`project_id`,`number`);
CREATE UNIQUE INDEX `routine_version_number` ON `routine_version` (`routine_id`,`major`,`minor`);
CREATE UNIQUE INDEX `run_number` ON `run` (`project_id`,`number`);
CREATE INDEX `run_release` ON `run` (`release_id`);
CREATE INDEX `run_suite_suite` ON `run_suite` (`suite_id`);
CREATE INDEX `saved_view_list` ON `saved_view` (`project_id`,`list`);
CREATE INDEX `second_factor_person` ON `second_factor` (`user_id`);
CREATE INDEX `security_event_at` ON `security_event` (`at`);
CREATE INDEX `security_event_kind` ON `security_event` (`kind`,`id`);
CREATE INDEX `security_event_person` ON `security_event` (`person_id`,`id`);
CREATE INDEX `sign_in_person` ON `sign_in` (`user_id`);
CREATE UNIQUE INDEX `sign_in_token_unique` ON `sign_in` (`token`);
CREATE UNIQUE INDEX `standing_import_name` ON `standing_import` (`project_id`,`name`) WHERE deleted_at is null;
CREATE INDEX `step_within` ON `step` (`within_step_id`);
CREATE INDEX `suggestion_case` ON `suggestion` (`case_id`);
CREATE INDEX `suite_member_case` ON `suite_member` (`case_id`) WHERE until_at is null;
CREATE INDEX `suite_member_from` ON `suite_member` (`suite_id`,`from_at`) WHERE until_at is null;
CREATE UNIQUE INDEX `suite_member_now` ON `suite_member` (`suite_id`,`case_id`) WHERE until_at is null;
CREATE INDEX `suite_member_until` ON `suite_member` (`suite_id`,`until_at`);
CREATE UNIQUE INDEX `suite_number` ON `suite` (`project_id`,`number`);
CREATE INDEX `suite_source_included` ON `suite_source` (`included_id`) WHERE included_id is not null;
CREATE INDEX `suite_source_suite` ON `suite_source` (`suite_id`,`position`);
CREATE INDEX `tagging_tag` ON `tagging` (`project_id`,`tag`);
CREATE INDEX `verdict_event_attempt` ON `verdict_event` (`attempt_id`,`id`);
CREATE INDEX `verdict_event_odd` ON `verdict_event` (`attempt_id`) WHERE arrival <> 'in time' or doubtful;
CREATE UNIQUE INDEX `verdict_event_once` ON `verdict_event` (`client_id`,`sequence`);
CREATE UNIQUE INDEX `verdict_reason_word` ON `verdict_reason` (`project_id`,`verdict`,lower(word));
CREATE INDEX `version_step_case` ON `version_step` (`use_case_version_id`) WHERE use_case_version_id is not null;
CREATE INDEX `version_step_routine` ON `version_step` (`use_routine_version_id`) WHERE use_routine_version_id is not null;
CREATE TRIGGER search_defect_added AFTER INSERT ON defect BEGIN INSERT INTO search(rowid, title, body, project_id) VALUES (new.id * 4 + 3, new.title, new.text, new.project_id); END;
CREATE TRIGGER search_defect_changed AFTER UPDATE OF title, text ON defect WHEN old.title <> new.title OR old.text <> new.text BEGIN DELETE FROM search WHERE rowid = old.id * 4 + 3; INSERT INTO search(rowid, title, body, project_id) VALUES (new.id * 4 + 3, new.title, new.text, new.project_id); END;
CREATE TRIGGER search_defect_purged AFTER DELETE ON defect BEGIN DELETE FROM search WHERE rowid = old.id * 4 + 3; END;
CREATE TRIGGER search_requirement_added AFTER INSERT ON requirement BEGIN INSERT INTO search(rowid, title, body, project_id) VALUES (new.id * 4 + 1, new.title, new.text, new.project_id); END;
CREATE TRIGGER search_requirement_changed AFTER UPDATE OF title, text ON requirement WHEN old.title <> new.title OR old.text <> new.text BEGIN DELETE FROM search WHERE rowid = old.id * 4 + 1; INSERT INTO search(rowid, title, body, project_id) VALUES (new.id * 4 + 1, new.title, new.text, new.project_id); END;
CREATE TRIGGER search_requirement_purged AFTER DELETE ON requirement BEGIN DELETE FROM search WHERE rowid = old.id * 4 + 1; END;
CREATE TRIGGER search_test_case_added AFTER INSERT ON test_case BEGIN INSERT INTO search(rowid, title, body, project_id) VALUES (new.id * 4 + 2, new.title, new.objective, new.project_id); END;
CREATE TRIGGER search_test_case_changed AFTER UPDATE OF title, objective ON test_case WHEN old.title <> new.title OR old.objective <> new.objective BEGIN DELETE FROM search WHERE rowid = old.id * 4 + 2; INSERT INTO search(rowid, title, body, project_id) VALUES (new.id * 4 + 2, new.title, new.objective, new.project_id); END;
CREATE TRIGGER search_test_case_purged AFTER DELETE ON test_case BEGIN DELETE FROM search WHERE rowid = old.id * 4 + 2; END;
INSERT INTO "__drizzle_migrations" VALUES (NULL, '0e3aebe97ddb00d850692f8ded841c9a152b20eaf9a3ebfcf9486a50244d28b7', 1795905633141);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '0f0ba949e37af41fd03cad91ccf4e25c97daa9fe73862bf9f7d6b7c4ea2b8d7f', 1795418569861);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '113178f1b6e8cdc8020d1e2d5fb8fd0b7e7104e7bcee4a4f33717abe122a67c2', 1795888376790);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '1bd9c477bd2f77221fb583da6cfd7f2d0babbb8b7f3df22b62b82842e8131b2e', 1795968203496);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '1db223d241e5ca03fe717279337fa724368d9ceb2003c5e043201ad4caa3f170', 1795797128291);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '1f048455f11cbe632470f2738938a71634474acb2e218aa557e16a58e4cca007', 1795477245885);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '3580b63628edb0027f1944b25e1f383779b87994716d19c721a01ce2ffaf9041', 1795782900000);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '3d020815b4439b8182bfabe57fad3a041f55aeade94e98ade445422efe297363', 1795824194087);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '52b51279aed8bbe97bf0efdb2779dd417c534503c11c948e7c78fdf834e4db63', 1795892428575);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '555a60d7ac3d51277bc2f2de9521512b97a71d228b8d33462a83fd9ce5480e90', 1795842409900);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '6a9bca97b99499832620e59000773ae649e9a7dec55c800190af85a77b171bb2', 1795861579619);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '6f18352787009478488e3bcdd389e52caaa53c84c0c805fbbc3c92e1f0731fcd', 1795932873752);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '77e9e825e164770323c64c96f239d597dd83d10632f57b02b9559dc636c0c8de', 1795418567966);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '7b9c81d20de09c6f02116acd13a1cd8ea84c9ca1454c8dbdb46e25db1a8cc755', 1795446305773);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '7f2c85f42c317b58167877cea3d88a37a2a635561dd5ddf14487f47c138249c6', 1795836772467);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '822570d17f7edc195270914401c835bca651a12ca8844c856abc2b5342df6d3c', 1795943865339);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '84b4959cf4b60443dccd66ad2668b2302b348350fe6938230037789e8146cac0', 1795959509460);
INSERT INTO "__drizzle_migrations" VALUES (NULL, '8e58a0d4015bb374930251409a7985fdb2d3100217426c24a87759ba653ee468', 1795455428894);
INSERT INTO "__drizzle_migrations" VALUES (NULL, 'a86dd62dd9b053ba8c1bf4dfdc806457597486282d7490740432ddc872cbb80d', 1795854424240);
INSERT INTO "__drizzle_migrations" VALUES (NULL, 'ac77137e67e7baa096fc40cccef88c5343d6efaa8230de87b6ba04f92177269a', 1795889675641);
INSERT INTO "__drizzle_migrations" VALUES (NULL, 'c5ac0e233d86dbbc5c200d0b28f66c1e4d440e864043a9a3d51ae6311715baf5', 1795915863966);
INSERT INTO "__drizzle_migrations" VALUES (NULL, 'cb1edec6dda004cd51f69e7ad23890d38d8bc634a08ed96106c0f5c63afd32d6', 1795460536481);
INSERT INTO "__drizzle_migrations" VALUES (NULL, 'f95745fbf40f4da457319772f9d10c71ed743d43401ec56e6ae9cd17560db1b7', 1795428411118);
INSERT INTO "account" VALUES ('a-lead', 'lead', 'credential', 'lead', NULL, NULL, NULL, NULL, NULL, NULL, 'none', 1795424400000, 1795424400000);
INSERT INTO "account" VALUES ('a-second', 'second', 'credential', 'second', NULL, NULL, NULL, NULL, NULL, NULL, 'none', 1795424400000, 1795424400000);
INSERT INTO "account" VALUES ('a-stranger', 'stranger', 'credential', 'stranger', NULL, NULL, NULL, NULL, NULL, NULL, 'none', 1795424400000, 1795424400000);
INSERT INTO "account" VALUES ('a-tester', 'tester', 'credential', 'tester', NULL, NULL, NULL, NULL, NULL, NULL, 'none', 1795424400000, 1795424400000);
INSERT INTO "account" VALUES ('a-viewer', 'viewer', 'credential', 'viewer', NULL, NULL, NULL, NULL, NULL, NULL, 'none', 1795424400000, 1795424400000);
INSERT INTO "attempt" VALUES (1, 1, 1, 4, 2, 2, 1, 'tester', 0, 'Failed', 1, NULL, NULL, 1795424400000, 1795424400000, 0, '', 'run', 2, NULL, NULL, 1, NULL, NULL, NULL, NULL, NULL, 'clock');
INSERT INTO "attempt" VALUES (2, 1, 1, 4, 3, 2, 2, 'tester', 0, 'Passed', 1, 'Passed', NULL, 1795424700000, 1795424700000, 0, '', 'run', 2, NULL, NULL, 1, NULL, NULL, NULL, NULL, NULL, 'clock');
INSERT INTO "attempt" VALUES (3, 1, 2, 7, 2, 2, 3, 'tester', 0, 'Blocked', 1, 'Blocked', NULL, 1795425000000, 1795425000000, 0, '', 'run', 2, NULL, NULL, 1, NULL, NULL, NULL, NULL, NULL, 'clock');
INSERT INTO "attempt_row" VALUES (1, 1, '{"sum":"12.50"}', NULL);
INSERT INTO "attempt_row" VALUES (1, 2, '{"sum":"0"}', NULL);
INSERT INTO "attempt_row" VALUES (2, 1, '{"sum":"12.50"}', NULL);
INSERT INTO "attempt_row" VALUES (2, 2, '{"sum":"0"}', NULL);
INSERT INTO "attempt_step" VALUES (1, 1, 5, 'Failed', NULL, 1, '', 1795424400000);
INSERT INTO "attempt_step" VALUES (2, 1, 1, 'Passed', NULL, 1, '', 1795424700000);
INSERT INTO "attempt_step" VALUES (2, 1, 2, 'Passed', NULL, 1, '', 1795424700000);
INSERT INTO "attempt_step" VALUES (2, 1, 5, 'Passed', NULL, 1, '', 1795424700000);
INSERT INTO "attempt_step" VALUES (2, 1, 6, 'Passed', NULL, 1, '', 1795424700000);
INSERT INTO "attempt_step" VALUES (2, 2, 1, 'Passed', NULL, 1, '', 1795424700000);
INSERT INTO "attempt_step" VALUES (2, 2, 2, 'Passed', NULL, 1, '', 1795424700000);
INSERT INTO "attempt_step" VALUES (2, 2, 5, 'Passed', NULL, 1, '', 1795424700000);
INSERT INTO "attempt_step" VALUES (2, 2, 6, 'Passed', NULL, 1, '', 1795424700000);
INSERT INTO "attempt_step" VALUES (3, 1, 3, 'Not run', NULL, 1, '', 1795425000000);
INSERT INTO "build" VALUES (1, 1, 1, 1, '1.0.0', 'Offered', 1794992400000, NULL, '', NULL);
INSERT INTO "build" VALUES (2, 1, 1, 2, '1.0.1', 'Offered', 1795251600000, NULL, '', NULL);
INSERT INTO "case_template" VALUES (1, 1, 'Payment', '{"objective":"","type":"Functional","component":"","importance":"Medium","tags":[],"preconditions":"","parameters":["sum"],"rows":[{"sum":"12.50"},{"sum":"0"}],"steps":[{"action":"Open","expected":"Asked","data":""},{"action":"Sign in as clerk","expected":"Known","data":""},{"action":"Pay","expected":"Paid","data":""},{"action":"Leave","expected":"Gone","data":""}]}', 'tester', 1795424400000, NULL);
INSERT INTO "case_version" VALUES (1, 1, NULL, NULL, 'Draft', '5c79e5b346ccb14f', '', '["sum"]', '', 1795424400000, 'tester', NULL, NULL, '', NULL, NULL);
INSERT INTO "case_version" VALUES (2, 2, NULL, NULL, 'Draft', '5c730f3e9c60a40d', '', '[]', '', 1795424400000, 'tester', NULL, NULL, '', NULL, NULL);
INSERT INTO "case_version" VALUES (3, 1, 0, 1, 'In review', '5c79e5b346ccb14f', '', '["sum"]', '', 1795424400000, 'tester', NULL, NULL, '', NULL, NULL);
INSERT INTO "case_version" VALUES (4, 1, 1, 0, 'Approved', '5c79e5b346ccb14f', '', '["sum"]', 'approved', 1795424400000, 'lead', 1795424400000, 'lead', '', NULL, NULL);
INSERT INTO "case_version" VALUES (5, 3, NULL, NULL, 'Draft', '9636c1c51f667843', '', '[]', '', 1795424400000, 'tester', NULL, NULL, '', NULL, NULL);
INSERT INTO "case_version" VALUES (6, 4, NULL, NULL, 'Draft', 'fbb7cd661b67c4c3', '', '[]', '', 1795424400000, 'tester', NULL, NULL, '', NULL, NULL);
INSERT INTO "case_version" VALUES (7, 2, 0, 1, 'Draft', '5c730f3e9c60a40d', '', '[]', 'taken into execution', 1795425000000, 'tester', NULL, NULL, '', NULL, NULL);
INSERT INTO "change" VALUES (1, 1, 1795424400000, 'tester', 'requirement', 1, 'RQ-1', 'created', NULL);
INSERT INTO "change" VALUES (2, 1, 1795424400000, 'tester', 'requirement', 2, 'RQ-2', 'created', NULL);
INSERT INTO "change" VALUES (3, 1, 1795424400000, 'tester', 'case', 1, 'TC-1', 'created', NULL);
INSERT INTO "change" VALUES (4, 1, 1795424400000, 'tester', 'requirement', 1, 'RQ-1', 'linked', '{"link":[null,"RQ-1 – TC-1"]}');
INSERT INTO "change" VALUES (5, 1, 1795424400000, 'tester', 'case', 1, 'TC-1', 'linked', '{"link":[null,"RQ-1 – TC-1"]}');
INSERT INTO "change" VALUES (6, 1, 1795424400000, 'tester', 'case', 2, 'TC-2', 'created', NULL);
INSERT INTO "change" VALUES (7, 1, 1795424400000, 'tester', 'requirement', 1, 'RQ-1', 'linked', '{"link":[null,"RQ-1 – TC-2"]}');
INSERT INTO "change" VALUES (8, 1, 1795424400000, 'tester', 'case', 2, 'TC-2', 'linked', '{"link":[null,"RQ-1 – TC-2"]}');
INSERT INTO "change" VALUES (9, 1, 1795424400000, 'tester', 'routine', 1, 'RT-1', 'created', NULL);
INSERT INTO "change" VALUES (10, 1, 1795424400000, 'tester', 'routine', 1, 'RT-1', 'version', '{"version":[null,"0.1"]}');
INSERT INTO "change" VALUES (11, 1, 1795424400000, 'tester', 'case', 1, 'TC-1', 'written', NULL);
INSERT INTO "change" VALUES (12, 1, 1795424400000, 'tester', 'case', 1, 'TC-1', 'version', '{"version":[null,"0.1"]}');
INSERT INTO "change" VALUES (13, 1, 1795424400000, 'tester', 'case', 1, 'TC-1', 'review asked', '{"state":["Draft","In review"],"of":[null,["lead"]]}');
INSERT INTO "change" VALUES (14, 1, 1795424400000, 'lead', 'case', 1, 'TC-1', 'approved', '{"version":["0.1","1.0"]}');
INSERT INTO "change" VALUES (15, 1, 1795424400000, 'tester', 'template', 1, 'Payment', 'created', NULL);
INSERT INTO "change" VALUES (16, 1, 1795424400000, 'tester', 'table', 1, 'Cards', 'created', NULL);
INSERT INTO "change" VALUES (17, 1, 1795424400000, 'tester', 'table', 1, 'Cards', 'changed', NULL);
INSERT INTO "change" VALUES (18, 1, 1795424400000, 'tester', 'case', 1, 'TC-1', 'commented', NULL);
INSERT INTO "change" VALUES (19, 1, 1795424400000, 'tester', 'case', 3, 'TC-3', 'imported', '{"imported":[null,"TC-3 to TC-3"]}');
INSERT INTO "change" VALUES (20, 1, 1795424400000, 'tester', 'requirement', 2, 'RQ-2', 'model added', '{"model":[null,"Ages"]}');
INSERT INTO "change" VALUES (21, 1, 1795424400000, 'tester', 'case', 4, 'TC-4', 'created', NULL);
INSERT INTO "change" VALUES (22, 1, 1795424400000, 'tester', 'requirement', 2, 'RQ-2', 'cases accepted', '{"Ages":[null,["TC-4"]]}');
INSERT INTO "change" VALUES (23, 1, 1795424400000, 'tester', 'requirement', 2, 'RQ-2', 'checklist written', '{"checklist":[null,["A child alone"]]}');
INSERT INTO "change" VALUES (24, 1, 1795424400000, 'lead', 'suite', 1, 'TS-1', 'created', NULL);
INSERT INTO "change" VALUES (25, 1, 1795424400000, 'lead', 'plan', 1, 'PL-1', 'created', NULL);
INSERT INTO "change" VALUES (26, 1, 1795424400000, 'lead', 'run', 1, 'RN-1', 'opened', NULL);
INSERT INTO "change" VALUES (27, 1, 1795424400000, 'tester', 'attempt', 1, 'RN-1', 'started', NULL);
INSERT INTO "change" VALUES (28, 1, 1795424400000, 'tester', 'attempt', 1, '1', 'recorded', NULL);
INSERT INTO "change" VALUES (29, 1, 1795424400000, 'tester', 'defect', 1, 'DF-1', 'reported', NULL);
INSERT INTO "change" VALUES (30, 1, 1795424700000, 'tester', 'attempt', 2, 'RN-1', 'started', NULL);
INSERT INTO "change" VALUES (31, 1, 1795424700000, 'tester', 'attempt', 2, '2', 'recorded', NULL);
INSERT INTO "change" VALUES (32, 1, 1795424700000, 'tester', 'attempt', 2, '2', 'recorded', NULL);
INSERT INTO "change" VALUES (33, 1, 1795425000000, 'tester', 'case', 2, 'TC-2', 'version', '{"version":[null,"0.1"]}');
INSERT INTO "change" VALUES (34, 1, 1795425000000, 'tester', 'attempt', 3, 'RN-1', 'started', NULL);
INSERT INTO "change" VALUES (35, 1, 1795425000000, 'tester', 'attempt', 3, '3', 'recorded', NULL);
INSERT INTO "change" VALUES (36, 1, 1795425000000, 'tester', 'attempt', 3, '3', 'recorded', NULL);
INSERT INTO "change" VALUES (37, 1, 1795425000000, 'tester', 'attempt', 3, '3', 'recorded', NULL);
INSERT INTO "checklist_item" VALUES (1, 1, 2, 1, 'A child alone', NULL, NULL, NULL, NULL);
INSERT INTO "comment" VALUES (1, 1, 'case', 1, NULL, 'For @Lead Person', 1795424400000, 'tester', NULL, NULL, NULL);
INSERT INTO "counter" VALUES (1, 'DF', 2);
INSERT INTO "counter" VALUES (1, 'PL', 2);
INSERT INTO "counter" VALUES (1, 'RN', 2);
INSERT INTO "counter" VALUES (1, 'RQ', 3);
INSERT INTO "counter" VALUES (1, 'RT', 2);
INSERT INTO "counter" VALUES (1, 'TC', 5);
INSERT INTO "counter" VALUES (1, 'TS', 2);
INSERT INTO "custom_field" VALUES (1, 1, 'case', 'Deck', 'text', 0, '[]', 1, NULL, '[]');
INSERT INTO "custom_value" VALUES (1, 1, 0, 'C', NULL, NULL, NULL);
INSERT INTO "data_row" VALUES (1, 1, '{"sum":"12.50"}');
INSERT INTO "data_row" VALUES (1, 2, '{"sum":"0"}');
INSERT INTO "data_row" VALUES (3, 1, '{"sum":"12.50"}');
INSERT INTO "data_row" VALUES (3, 2, '{"sum":"0"}');
INSERT INTO "data_row" VALUES (4, 1, '{"sum":"12.50"}');
INSERT INTO "data_row" VALUES (4, 2, '{"sum":"0"}');
INSERT INTO "data_table" VALUES (1, 1, 'Cards', '["number"]', 2, NULL, 0);
INSERT INTO "data_table_row" VALUES (1, 1, 1, '{"number":"4000 1"}', NULL, NULL, NULL);
INSERT INTO "defect" VALUES (1, 1, 1, 'It is not there', '', 'Data: sum = 12.50
1. Open Should be: Asked. (Failed)', 'Major', 3, 'Reported', '', 2, NULL, 2, NULL, 'tester', '', 1, 1795424400000, 1795424400000, NULL);
INSERT INTO "defect_link" VALUES (1, 1, 1, 1, 5, 1, 1, 1, 1795424400000, NULL);
INSERT INTO "defect_state_at" VALUES (1, 1, 'Reported', NULL, 1795424400000, 'tester');
INSERT INTO "draft_model" VALUES (1, 1, 2, 'boundaries', 'Ages', '{"technique":"boundaries","body":{"inputs":{"age":{"type":"integer","partitions":[{"name":"adult","from":16,"to":64,"valid":true}]}},"values":2}}', '{}', '', 1, 1, 1, 1795424400000, 'tester', NULL);
INSERT INTO "draft_model_revision" VALUES (1, 1, 1, '{"technique":"boundaries","body":{"inputs":{"age":{"type":"integer","partitions":[{"name":"adult","from":16,"to":64,"valid":true}]}},"values":2}}', 1795424400000, 'tester');
INSERT INTO "draft_row" VALUES (1, 1, 1, '{"age":"16"}', 'accepted', 4, 1, 1795424400000, 'tester', NULL);
INSERT INTO "environment" VALUES (1, 1, 0, 'any', 1, NULL, NULL, NULL, '', '');
INSERT INTO "environment" VALUES (2, 1, 1, 'Red', 0, NULL, NULL, NULL, '', '');
INSERT INTO "environment" VALUES (3, 1, 2, 'Blue', 0, NULL, NULL, NULL, '', '');
INSERT INTO "environment_value" VALUES (2, 'engine', 'Red');
INSERT INTO "environment_value" VALUES (3, 'engine', 'Blue');
INSERT INTO "import_act" VALUES (1, 1, 1795424400000, 'tester', 'file', 'case', '[3]', '[]', NULL);
INSERT INTO "item" VALUES (1, 1, 1, 2, 1, 'tester', NULL, NULL, 'Failed', 1, NULL, '', '', '5c79e5b346ccb14f', 1, 1, NULL);
INSERT INTO "item" VALUES (2, 1, 1, 3, 2, 'tester', NULL, NULL, 'Passed', 2, NULL, '', '', '5c79e5b346ccb14f', 1, 1, NULL);
INSERT INTO "item" VALUES (3, 1, 2, 2, 3, 'tester', NULL, NULL, 'Blocked', 3, NULL, '', '', '5c730f3e9c60a40d', 1, 1, NULL);
INSERT INTO "item" VALUES (4, 1, 2, 3, 4, NULL, NULL, NULL, 'Not run', NULL, NULL, '', '', '5c730f3e9c60a40d', 1, 1, NULL);
INSERT INTO "iteration" VALUES (1, 1, 1, 'First', NULL, NULL, NULL);
INSERT INTO "link" VALUES (1, 1, 1, 1, NULL, 1795424400000, NULL, 1, NULL, 'tester', '');
INSERT INTO "link" VALUES (2, 1, 1, 2, NULL, 1795424400000, NULL, 1, NULL, 'tester', '');
INSERT INTO "link" VALUES (3, 1, 2, 4, NULL, 1795424400000, NULL, 1, NULL, 'tester', '');
INSERT INTO "membership" VALUES (1, 'lead', 'lead', '', 'lead', 100);
INSERT INTO "membership" VALUES (1, 'second', 'lead', '', 'lead', 100);
INSERT INTO "membership" VALUES (1, 'tester', 'tester', '', 'tester', 100);
INSERT INTO "membership" VALUES (1, 'viewer', 'viewer', '', 'viewer', 100);
INSERT INTO "notice" VALUES (1, 1, 'lead', 'review', 'TC-1', 'asks you to review Überfähre: pay “cash”, version 0.1', 'tester', 1795424400000, NULL);
INSERT INTO "notice" VALUES (2, 1, 'tester', 'answer', 'TC-1', 'approved Überfähre: pay “cash”', 'lead', 1795424400000, NULL);
INSERT INTO "notice" VALUES (3, 1, 'lead', 'mention', 'TC-1', 'For @Lead Person', 'tester', 1795424400000, NULL);
INSERT INTO "person" VALUES ('lead', 'Lead Person', 'lead@shop.example', 1, NULL, 0, 1795424400000, 1795424400000, 0, 'en-GB', NULL, 480, 60, NULL, '', 'next');
INSERT INTO "person" VALUES ('second', 'Second Person', 'second@shop.example', 1, NULL, 0, 1795424400000, 1795424400000, 0, 'en-GB', NULL, 480, 60, NULL, '', 'next');
INSERT INTO "person" VALUES ('stranger', 'Stranger Person', 'stranger@shop.example', 1, NULL, 0, 1795424400000, 1795424400000, 0, 'en-GB', NULL, 480, 60, NULL, '', 'next');
INSERT INTO "person" VALUES ('tester', 'Tester Person', 'tester@shop.example', 1, NULL, 0, 1795424400000, 1795424400000, 0, 'en-GB', NULL, 480, 60, NULL, '', 'next');
INSERT INTO "person" VALUES ('viewer', 'Viewer Person', 'viewer@shop.example', 1, NULL, 0, 1795424400000, 1795424400000, 0, 'en-GB', NULL, 480, 60, NULL, '', 'next');
INSERT INTO "plan" VALUES (1, 1, 1, 'The plan', '', 'Drafting', 1, NULL, 1, 1795424400000, 1795424400000, NULL, NULL);
INSERT INTO "plan_environment" VALUES (1, 2);
INSERT INTO "plan_environment" VALUES (1, 3);
INSERT INTO "plan_suite" VALUES (1, 1, 1);
INSERT INTO "project" VALUES (1, 'SHOP', 'Shop', 'Till', 'UTC', '1,2,3,4,5', 14, 0, 22, 1787648400000, 0, 0, 0, '', '', '', NULL, NULL, 'evenly', 0, 0, '');
INSERT INTO "release" VALUES (1, 1, 1, '1.0', 'In test', '2026-11-01', '2026-12-15', NULL);
INSERT INTO "release" VALUES (2, 1, 2, '2.0', 'Planned', NULL, '2027-03-01', NULL);
INSERT INTO "requirement" VALUES (1, 1, 1, NULL, 1, 'Adults pay 12.50 €', '', 1, 'Function', '', 'Draft', NULL, NULL, NULL, '', '', 1, 1795424400000, 1795424400000, NULL, NULL);
INSERT INTO "requirement" VALUES (2, 1, 2, NULL, 2, 'Ages are whole years', '', 1, 'Function', '', 'Draft', NULL, NULL, NULL, '', '', 1, 1795424400000, 1795424400000, NULL, NULL);
INSERT INTO "requirement_revision" VALUES (1, 1, 'Adults pay 12.50 €', '', 1795424400000, 'tester');
INSERT INTO "requirement_revision" VALUES (2, 1, 'Ages are whole years', '', 1795424400000, 'tester');
INSERT INTO "review_asked" VALUES (1, 1, 1, 3, 'tester', 'lead', 1795424400000, 'approved', 1795424400000);
INSERT INTO "routine" VALUES (1, 1, 1, 'Sign in', '', 2, 1, 1795424400000, 1795424400000, NULL);
INSERT INTO "routine_step" VALUES (1, 1, 1, 'Open', 'Asked', '', NULL, NULL, '', 0);
INSERT INTO "routine_step" VALUES (1, 2, 2, 'Sign in as {who}', 'Known', '', NULL, NULL, '', 0);
INSERT INTO "routine_step" VALUES (2, 1, 1, 'Open', 'Asked', '', NULL, NULL, '', 0);
INSERT INTO "routine_step" VALUES (2, 2, 2, 'Sign in as {who}', 'Known', '', NULL, NULL, '', 0);
INSERT INTO "routine_version" VALUES (1, 1, NULL, NULL, '9bf3461e2262244b', '', 1795424400000, 'tester');
INSERT INTO "routine_version" VALUES (2, 1, 0, 1, '9bf3461e2262244b', 'inserted', 1795424400000, 'tester');
INSERT INTO "run" VALUES (1, 1, 1, 'The run', NULL, 1, 2, 'Open', '2026-11-23', '2026-11-30', 1, 1795424400000, 1795424400000, NULL, NULL, NULL, '', NULL, '', '', NULL);
INSERT INTO "run_person" VALUES (1, 'lead');
INSERT INTO "run_person" VALUES (1, 'tester');
INSERT INTO "saved_view" VALUES (1, 1, 'cases', 'Mine', 'viewer', 0, 'tag=slow', 1, NULL);
INSERT INTO "standing_result" VALUES (2, 1, 2, 1, 'Failed', 1795424400000, '5c79e5b346ccb14f', NULL, 0);
INSERT INTO "standing_result" VALUES (2, 1, 3, 2, 'Passed', 1795424700000, '5c79e5b346ccb14f', NULL, 0);
INSERT INTO "standing_result" VALUES (2, 2, 2, 3, 'Blocked', 1795425000000, '5c730f3e9c60a40d', NULL, 0);
INSERT INTO "step" VALUES (1, 1, NULL, NULL, NULL);
INSERT INTO "step" VALUES (2, 1, NULL, NULL, NULL);
INSERT INTO "step" VALUES (3, 2, NULL, NULL, NULL);
INSERT INTO "step" VALUES (4, 1, NULL, NULL, NULL);
INSERT INTO "step" VALUES (5, 1, 4, 1, NULL);
INSERT INTO "step" VALUES (6, 1, 4, 2, NULL);
INSERT INTO "step" VALUES (7, 3, NULL, NULL, NULL);
INSERT INTO "step" VALUES (8, 4, NULL, NULL, NULL);
INSERT INTO "suggestion" VALUES (1, 1, 1, 4, '{"preconditions":"","rows":[{"sum":"12.50"},{"sum":"0"}],"steps":[{"from":0,"action":"Sign in","expected":"","data":""},{"from":1,"action":"Pay","expected":"Paid","data":""},{"from":2,"action":"Leave","expected":"Gone","data":""}]}', '', 'Open', 1795424400000, 'lead', NULL, NULL);
INSERT INTO "suite" VALUES (1, 1, 1, 'What is asked for', '', 'Drafting', 1, 1795424400000, 1795424400000, NULL, '', 'hand', 2, 11);
INSERT INTO "suite_member" VALUES (1, 1, 1, '[0]', 1795424400000, NULL, 'lead', NULL);
INSERT INTO "suite_member" VALUES (2, 1, 2, '[0]', 1795424400000, NULL, 'lead', NULL);
INSERT INTO "suite_pin" VALUES (1, 1, 1);
INSERT INTO "suite_pin" VALUES (1, 2, 2);
INSERT INTO "tagging" VALUES (1, 'case', 1, 'slow');
INSERT INTO "tagging" VALUES (1, 'case', 1, 'ähnlich');
INSERT INTO "test_case" VALUES (1, 1, 1, NULL, 1, 'Überfähre: pay “cash”', '', 'Functional', '', 'Medium', NULL, 'Manual', NULL, 4, 4, 3, 'Approved', 3, 1795424400000, 1795424400000, NULL, NULL, NULL, NULL, NULL);
INSERT INTO "test_case" VALUES (2, 1, 2, NULL, 2, 'Pay by card', '', 'Functional', '', 'Medium', NULL, 'Manual', NULL, 7, NULL, 1, 'Draft', 1, 1795424400000, 1795424400000, NULL, NULL, NULL, NULL, NULL);
INSERT INTO "test_case" VALUES (3, 1, 3, NULL, 3, 'Take a refund', '', 'Functional', '', 'Medium', NULL, 'Manual', NULL, NULL, NULL, 1, 'Draft', 1, 1795424400000, 1795424400000, NULL, NULL, NULL, NULL, NULL);
INSERT INTO "test_case" VALUES (4, 1, 4, NULL, 4, 'Age 16', '', 'Functional', '', 'Medium', NULL, 'Manual', NULL, NULL, NULL, 1, 'Draft', 1, 1795424400000, 1795424400000, NULL, NULL, NULL, NULL, NULL);
INSERT INTO "verdict_event" VALUES (1, 1, 'test-client-1', 1, 'tester', '{"marks":[{"from":null,"to":{"row":1,"step":5,"verdict":"Failed","word":null,"final":true}}],"whole":null}', NULL, 1795424400000, 1795424400000, 1795424400000, 0, 'in time');
INSERT INTO "verdict_event" VALUES (2, 2, 'test-client-1', 2, 'tester', '{"marks":[{"from":null,"to":{"row":1,"step":5,"verdict":"Passed","word":null,"final":true}}],"whole":null}', NULL, 1795424700000, 1795424700000, 1795424700000, 0, 'in time');
INSERT INTO "verdict_event" VALUES (3, 2, 'test-client-1', 3, 'tester', '{"marks":[{"from":null,"to":{"row":1,"step":6,"verdict":"Passed","word":null,"final":true}},{"from":null,"to":{"row":1,"step":1,"verdict":"Passed","word":null,"final":true}},{"from":null,"to":{"row":1,"step":2,"verdict":"Passed","word":null,"final":true}},{"from":null,"to":{"row":2,"step":5,"verdict":"Passed","word":null,"final":true}},{"from":null,"to":{"row":2,"step":6,"verdict":"Passed","word":null,"final":true}},{"from":null,"to":{"row":2,"step":1,"verdict":"Passed","word":null,"final":true}},{"from":null,"to":{"row":2,"step":2,"verdict":"Passed","word":null,"final":true}}],"whole":{"from":null,"to":{"verdict":"Passed","word":null,"final":true,"override":null}}}', NULL, 1795424700000, 1795424700000, 1795424700000, 0, 'in time');
INSERT INTO "verdict_event" VALUES (4, 3, 'test-client-1', 4, 'tester', '{"marks":[{"from":null,"to":{"row":1,"step":3,"verdict":"Failed","word":null,"final":true}}],"whole":null}', NULL, 1795425000000, 1795425000000, 1795425000000, 0, 'in time');
INSERT INTO "verdict_event" VALUES (5, 3, 'test-client-1', 5, 'tester', '{"marks":[{"from":{"row":1,"step":3,"verdict":"Failed","word":null,"final":true},"to":null}],"whole":null}', 4, 1795425000000, 1795425000000, 1795425000000, 0, 'in time');
INSERT INTO "verdict_event" VALUES (6, 3, 'test-client-1', 6, 'tester', '{"marks":[],"whole":{"from":null,"to":{"verdict":"Blocked","word":null,"final":true,"override":null}}}', NULL, 1795425000000, 1795425000000, 1795425000000, 0, 'in time');
INSERT INTO "version_step" VALUES (1, 1, 4, 'Sign in', '', '', 2, NULL, '{"who":"clerk"}', 0);
INSERT INTO "version_step" VALUES (1, 2, 1, 'Pay', 'Paid', '', NULL, NULL, '', 0);
INSERT INTO "version_step" VALUES (1, 3, 2, 'Leave', 'Gone', '', NULL, NULL, '', 0);
INSERT INTO "version_step" VALUES (2, 1, 3, 'Look', 'It is there', '', NULL, NULL, '', 0);
INSERT INTO "version_step" VALUES (3, 1, 4, 'Sign in', '', '', 2, NULL, '{"who":"clerk"}', 0);
INSERT INTO "version_step" VALUES (3, 2, 1, 'Pay', 'Paid', '', NULL, NULL, '', 0);
INSERT INTO "version_step" VALUES (3, 3, 2, 'Leave', 'Gone', '', NULL, NULL, '', 0);
INSERT INTO "version_step" VALUES (4, 1, 4, 'Sign in', '', '', 2, NULL, '{"who":"clerk"}', 0);
INSERT INTO "version_step" VALUES (4, 2, 1, 'Pay', 'Paid', '', NULL, NULL, '', 0);
INSERT INTO "version_step" VALUES (4, 3, 2, 'Leave', 'Gone', '', NULL, NULL, '', 0);
INSERT INTO "version_step" VALUES (5, 1, 7, 'Ask for it', 'It is paid — at once', '', NULL, NULL, '', 0);
INSERT INTO "version_step" VALUES (6, 1, 8, 'Enter 16', 'Taken', '', NULL, NULL, '', 0);
INSERT INTO "version_step" VALUES (7, 1, 3, 'Look', 'It is there', '', NULL, NULL, '', 0);
