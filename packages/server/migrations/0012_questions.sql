CREATE TABLE `form_options` (
	`form_id` text NOT NULL,
	`key` text NOT NULL,
	`value` text NOT NULL,
	`position` integer NOT NULL,
	`times` integer NOT NULL,
	`first_at` integer NOT NULL,
	`last_at` integer NOT NULL,
	PRIMARY KEY(`form_id`, `key`, `value`),
	FOREIGN KEY (`form_id`) REFERENCES `forms`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `form_questions` (
	`form_id` text NOT NULL,
	`key` text NOT NULL,
	`position` integer NOT NULL,
	`label` text NOT NULL,
	`kind` text NOT NULL,
	`kinds` text NOT NULL,
	`filled` integer NOT NULL,
	`examples` text NOT NULL,
	`longest` integer NOT NULL,
	`shortest` integer NOT NULL,
	`shapes` text NOT NULL,
	`first_at` integer NOT NULL,
	`last_at` integer NOT NULL,
	PRIMARY KEY(`form_id`, `key`),
	FOREIGN KEY (`form_id`) REFERENCES `forms`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `form_unlearned` (
	`form_id` text NOT NULL,
	`submission_id` text NOT NULL,
	PRIMARY KEY(`form_id`, `submission_id`),
	FOREIGN KEY (`form_id`) REFERENCES `forms`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`submission_id`) REFERENCES `submissions`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `form_unlearned_by_submission` ON `form_unlearned` (`submission_id`);--> statement-breakpoint
CREATE TABLE `form_question_weeks` (
	`form_id` text NOT NULL,
	`monday` text NOT NULL,
	`key` text NOT NULL,
	`filled` integer NOT NULL,
	PRIMARY KEY(`form_id`, `monday`, `key`),
	FOREIGN KEY (`form_id`) REFERENCES `forms`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
ALTER TABLE `forms` ADD `learned` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
INSERT INTO `form_question_weeks` (`form_id`, `monday`, `key`, `filled`)
SELECT w.`form_id`, w.`monday`, q.`key`, q.`value` FROM `form_weeks` w, json_each(w.`filled`) q;
--> statement-breakpoint
UPDATE `forms` SET `learned` = coalesce(json_extract(`schema`, '$.count'), 0);
--> statement-breakpoint
CREATE TABLE `asked_then` AS
SELECT `form_id`, `key`, min(`at`) AS `first_at`, max(`at`) AS `last_at` FROM (
	SELECT s.`form_id` AS `form_id`, json_extract(q.`value`, '$.key') AS `key`, s.`received_at` AS `at`
	FROM `submissions` s, json_each(s.`data`, '$.questions') q WHERE s.`repeat_of` IS NULL
	UNION ALL
	SELECT s.`form_id`, json_extract(f.`value`, '$.key'), s.`received_at`
	FROM `submissions` s, json_each(s.`data`, '$.fields') f WHERE s.`repeat_of` IS NULL
	UNION ALL
	SELECT s.`form_id`, json_extract(f.`value`, '$.field'), s.`received_at`
	FROM `submissions` s, json_each(s.`data`, '$.files') f WHERE s.`repeat_of` IS NULL
	UNION ALL
	SELECT w.`form_id`, w.`key`, unixepoch(w.`monday`) * 1000 FROM `form_question_weeks` w
	WHERE NOT EXISTS (SELECT 1 FROM `submissions` s WHERE s.`form_id` = w.`form_id`
		AND date(s.`received_at` / 1000, 'unixepoch') <= date(w.`monday`, '+6 days'))
) GROUP BY `form_id`, `key`;
--> statement-breakpoint
CREATE TABLE `chosen_then` AS
SELECT s.`form_id` AS `form_id`, json_extract(f.`value`, '$.key') AS `key`, CAST(v.`atom` AS TEXT) AS `value`,
	min(s.`received_at`) AS `first_at`, max(s.`received_at`) AS `last_at`
FROM `submissions` s, json_each(s.`data`, '$.fields') f, json_tree(f.`value`, '$.value') v
WHERE s.`repeat_of` IS NULL AND json_extract(f.`value`, '$.kind') IN ('choice', 'choices') AND v.`atom` IS NOT NULL
GROUP BY 1, 2, 3;
--> statement-breakpoint
INSERT INTO `form_questions` (`form_id`, `key`, `position`, `label`, `kind`, `kinds`, `filled`, `examples`, `longest`, `shortest`, `shapes`, `first_at`, `last_at`)
SELECT o.`id`, json_extract(q.`value`, '$.key'), q.`key`, json_extract(q.`value`, '$.label'), json_extract(q.`value`, '$.kind'),
	json_extract(q.`value`, '$.kinds'), json_extract(q.`value`, '$.filled'), json_extract(q.`value`, '$.examples'),
	coalesce(json_extract(q.`value`, '$.longest'), 0), coalesce(json_extract(q.`value`, '$.shortest'), 0),
	coalesce(json_extract(q.`value`, '$.shapes'), '{}'),
	coalesce(t.`first_at`, o.`last_at`, 0), coalesce(t.`last_at`, o.`last_at`, 0)
FROM `forms` o, json_each(o.`schema`, '$.fields') q
LEFT JOIN `asked_then` t ON t.`form_id` = o.`id` AND t.`key` = json_extract(q.`value`, '$.key')
WHERE true
ON CONFLICT DO NOTHING;
--> statement-breakpoint
INSERT INTO `form_options` (`form_id`, `key`, `value`, `position`, `times`, `first_at`, `last_at`)
SELECT q.`form_id`, q.`key`, p.`key`, row_number() OVER (PARTITION BY q.`form_id`, q.`key` ORDER BY p.`id`) - 1, p.`value`,
	coalesce(t.`first_at`, q.`first_at`), coalesce(t.`last_at`, q.`last_at`)
FROM `form_questions` q
JOIN `forms` o ON o.`id` = q.`form_id`, json_each(o.`schema`, '$.fields[' || q.`position` || '].options') p
LEFT JOIN `chosen_then` t ON t.`form_id` = q.`form_id` AND t.`key` = q.`key` AND t.`value` = p.`key`
WHERE true
ON CONFLICT DO NOTHING;
--> statement-breakpoint
DROP TABLE `asked_then`;
--> statement-breakpoint
DROP TABLE `chosen_then`;
