CREATE TABLE `submission_texts` (
	`submission_id` text PRIMARY KEY NOT NULL,
	`text` text NOT NULL,
	FOREIGN KEY (`submission_id`) REFERENCES `submissions`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
INSERT INTO `submission_texts` (`submission_id`, `text`)
SELECT s.`id`, substr(lower(
	coalesce(json_extract(s.`data`, '$.id') || char(10), '') ||
	coalesce((SELECT group_concat(v.`atom`, char(10)) FROM json_each(s.`data`, '$.fields') f, json_tree(f.`value`, '$.value') v WHERE v.`atom` IS NOT NULL), '') ||
	coalesce(char(10) || (SELECT group_concat(json_extract(f.`value`, '$.name'), char(10)) FROM json_each(s.`data`, '$.files') f), '')
), 1, 8000) FROM `submissions` s;
