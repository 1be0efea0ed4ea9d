DROP TABLE `submission_texts`;--> statement-breakpoint
ALTER TABLE `arrivals` DROP COLUMN `body`;--> statement-breakpoint
ALTER TABLE `deliveries` DROP COLUMN `try_until`;