CREATE TABLE `variants` (
	`id` text PRIMARY KEY NOT NULL,
	`form_id` text NOT NULL,
	`name` text NOT NULL,
	`data` text NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`form_id`) REFERENCES `forms`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `variants_by_form` ON `variants` (`form_id`);--> statement-breakpoint
ALTER TABLE `forms` ADD `state` text DEFAULT 'adopted' NOT NULL;--> statement-breakpoint
ALTER TABLE `intakes` ADD `pins` text DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE `intakes` ADD `keep_days` integer;--> statement-breakpoint
ALTER TABLE `intakes` ADD `feed` text;--> statement-breakpoint
ALTER TABLE `intakes` ADD `feed_secret` blob;--> statement-breakpoint
ALTER TABLE `intakes` ADD `feed_reading` text;--> statement-breakpoint
ALTER TABLE `submissions` ADD `name` text;--> statement-breakpoint
ALTER TABLE `submissions` ADD `kept` integer DEFAULT false NOT NULL;