ALTER TABLE `copies` ADD `submission_id` text REFERENCES submissions(id) ON DELETE CASCADE;--> statement-breakpoint
CREATE INDEX `copies_by_submission` ON `copies` (`submission_id`);