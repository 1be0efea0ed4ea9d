ALTER TABLE `intakes` ADD `refusal_text` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `targets` ADD `takes_names` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `targets` ADD `answers` text DEFAULT '{}' NOT NULL;