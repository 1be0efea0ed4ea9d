DROP INDEX `submissions_all`;--> statement-breakpoint
CREATE INDEX `submissions_all` ON `submissions` (`form_id`,`received_at`,`id`);