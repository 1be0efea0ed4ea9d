CREATE TABLE `changes` (
	`id` text PRIMARY KEY NOT NULL,
	`subject` text NOT NULL,
	`subject_id` text NOT NULL,
	`print` text NOT NULL,
	`what` text NOT NULL,
	`first_at` integer NOT NULL,
	`last_at` integer NOT NULL,
	`before` text,
	`after` text,
	`state` text DEFAULT 'open' NOT NULL,
	`by` text,
	`settled_at` integer
);
--> statement-breakpoint
CREATE UNIQUE INDEX `changes_by_print` ON `changes` (`subject`,`subject_id`,`print`);--> statement-breakpoint
CREATE INDEX `changes_by_time` ON `changes` (`first_at`);