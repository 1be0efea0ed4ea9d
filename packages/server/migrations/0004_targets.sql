ALTER TABLE `targets` ADD `reads` text DEFAULT 'tables' NOT NULL;--> statement-breakpoint
ALTER TABLE `targets` ADD `auth` text DEFAULT '{"kind":"bearer"}' NOT NULL;