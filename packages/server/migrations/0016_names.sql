CREATE TABLE `question_names` (
	`form_id` text NOT NULL,
	`key` text NOT NULL,
	`name` text NOT NULL,
	PRIMARY KEY(`form_id`, `key`),
	FOREIGN KEY (`form_id`) REFERENCES `forms`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
ALTER TABLE `forms` ADD `own_name` text;