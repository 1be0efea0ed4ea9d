CREATE TABLE `calls_done` (
	`delivery_id` text NOT NULL,
	`call_id` text NOT NULL,
	`item` text NOT NULL,
	`done` text NOT NULL,
	PRIMARY KEY(`delivery_id`, `call_id`, `item`),
	FOREIGN KEY (`delivery_id`) REFERENCES `deliveries`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `copies` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`type` text NOT NULL,
	`size` integer NOT NULL,
	`digest` text NOT NULL,
	`expires_at` integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE `attempts` ADD `call_id` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `attempts` ADD `item` text DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE `attempts` ADD `purpose` text DEFAULT 'create' NOT NULL;--> statement-breakpoint
ALTER TABLE `attempts` ADD `complaints` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `intakes` ADD `file_access` text;--> statement-breakpoint
ALTER TABLE `intakes` ADD `file_secret` blob;--> statement-breakpoint
ALTER TABLE `routes` ADD `trial` text;--> statement-breakpoint
ALTER TABLE `targets` ADD `document` text;--> statement-breakpoint
ALTER TABLE `targets` ADD `recipe` text;--> statement-breakpoint
ALTER TABLE `targets` ADD `try_side` text;--> statement-breakpoint
ALTER TABLE `targets` ADD `try_secret` blob;--> statement-breakpoint
UPDATE `routes` SET `draft` = json_remove(json_set(`draft`, '$.calls', json_array(json_extract(`draft`, '$.call'))), '$.call') WHERE json_type(`draft`, '$.call') = 'object';--> statement-breakpoint
UPDATE `versions` SET `definition` = json_remove(json_set(`definition`, '$.calls', json_array(json_extract(`definition`, '$.call'))), '$.call') WHERE json_type(`definition`, '$.call') = 'object';
