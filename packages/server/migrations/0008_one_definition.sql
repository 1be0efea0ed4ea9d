CREATE TABLE `snapshots` (
	`hash` text PRIMARY KEY NOT NULL,
	`operations` text NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE `routes` ADD `revision` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `targets` ADD `snapshot` text REFERENCES snapshots(hash);--> statement-breakpoint
ALTER TABLE `versions` ADD `pins` text DEFAULT '{}' NOT NULL;--> statement-breakpoint
UPDATE `routes` SET `revision` = coalesce(json_extract(`draft`, '$.revision'), 0), `draft` = json_set(json_remove(`draft`, '$.revision'), '$.format', 1);--> statement-breakpoint
UPDATE `versions` SET `definition` = json_set(json_remove(`definition`, '$.revision'), '$.format', 1);--> statement-breakpoint
INSERT INTO `snapshots` (`hash`, `operations`, `created_at`) SELECT 'of target ' || `id`, `operations`, coalesce(`read_at`, `created_at`) FROM `targets`;--> statement-breakpoint
UPDATE `targets` SET `snapshot` = 'of target ' || `id`;--> statement-breakpoint
UPDATE `versions` SET `pins` = coalesce((SELECT json_group_object(t, 'of target ' || t) FROM (SELECT DISTINCT json_extract(c.value, '$.targetId') AS t FROM json_each(`versions`.`definition`, '$.calls') c) WHERE t IN (SELECT `id` FROM `targets`)), '{}');
