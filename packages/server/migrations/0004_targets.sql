DROP INDEX `submissions_by_arrival`;--> statement-breakpoint
CREATE INDEX `submissions_by_arrival` ON `submissions` (`arrival_id`,`position`);--> statement-breakpoint
ALTER TABLE `targets` ADD `reads` text DEFAULT 'tables' NOT NULL;--> statement-breakpoint
ALTER TABLE `targets` ADD `auth` text DEFAULT '{"kind":"bearer"}' NOT NULL;