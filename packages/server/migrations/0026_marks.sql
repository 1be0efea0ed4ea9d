ALTER TABLE `targets` ADD `takes_personal` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `targets` ADD `knows_keys` integer DEFAULT false NOT NULL;