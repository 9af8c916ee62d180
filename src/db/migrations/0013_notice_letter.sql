CREATE TABLE `notice_letter` (
	`notice_id` integer PRIMARY KEY NOT NULL,
	`due_at` integer,
	`tries` integer DEFAULT 0 NOT NULL,
	`sent_at` integer,
	`problem` text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE INDEX `notice_letter_due` ON `notice_letter` (`due_at`);--> statement-breakpoint
ALTER TABLE `person` ADD `letters` text DEFAULT '' NOT NULL;