ALTER TABLE `form_weeks` DROP COLUMN `filled`;--> statement-breakpoint
ALTER TABLE `forms` DROP COLUMN `schema`;