ALTER TABLE `suite` ADD `case_count` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `suite` ADD `case_minutes` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX `suite_member_from` ON `suite_member` (`suite_id`,`from_at`) WHERE until_at is null;--> statement-breakpoint
UPDATE `suite` SET `case_count` = (SELECT count(*) FROM suite_member m WHERE m.suite_id = suite.id AND m.until_at IS NULL);
--> statement-breakpoint
UPDATE `project` SET `suites_noticed` = 0;
