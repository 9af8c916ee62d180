ALTER TABLE `api_token` ADD `scope` text DEFAULT 'write' NOT NULL;--> statement-breakpoint
ALTER TABLE `api_token` ADD `ends_at` integer;