ALTER TABLE `run` ADD `closed_at` integer;--> statement-breakpoint
ALTER TABLE `verdict_event` ADD `claimed_at` integer;--> statement-breakpoint
ALTER TABLE `verdict_event` ADD `doubtful` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `verdict_event` ADD `arrival` text DEFAULT 'in time' NOT NULL;--> statement-breakpoint
CREATE INDEX `verdict_event_odd` ON `verdict_event` (`attempt_id`) WHERE arrival <> 'in time' or doubtful;--> statement-breakpoint
UPDATE `run` SET `closed_at` = coalesce((SELECT max(`at`) FROM `change` WHERE `kind` = 'run' AND `owner_id` = `run`.`id` AND `action` IN ('closed', 'aborted')), `updated_at`) WHERE `state` IN ('Closed', 'Aborted');
