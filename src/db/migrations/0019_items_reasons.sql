ALTER TABLE `item` ADD `reasons` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `item` ADD `dropped_reason` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `run` ADD `composed` text;--> statement-breakpoint
ALTER TABLE `run` ADD `ended_reason` text DEFAULT '' NOT NULL;