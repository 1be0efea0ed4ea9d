DROP INDEX `arrivals_by_state`;--> statement-breakpoint
ALTER TABLE `arrivals` ADD `aside` integer DEFAULT false NOT NULL;--> statement-breakpoint
CREATE INDEX `arrivals_by_state` ON `arrivals` (`state`,`received_at`);