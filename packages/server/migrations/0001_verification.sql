ALTER TABLE `arrivals` ADD `checked` text;--> statement-breakpoint
ALTER TABLE `arrivals` ADD `digest` text;--> statement-breakpoint
CREATE INDEX `arrivals_by_digest` ON `arrivals` (`intake_id`,`digest`);--> statement-breakpoint
ALTER TABLE `intakes` ADD `verification` text;--> statement-breakpoint
ALTER TABLE `intakes` ADD `secrets` blob;--> statement-breakpoint
ALTER TABLE `intakes` ADD `allowed_addresses` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `intakes` ADD `allowed_origins` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `intakes` ADD `same_within` integer DEFAULT 60 NOT NULL;