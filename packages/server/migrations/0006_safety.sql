CREATE TABLE `form_weeks` (
	`form_id` text NOT NULL,
	`monday` text NOT NULL,
	`submissions` integer NOT NULL,
	`filled` text NOT NULL,
	PRIMARY KEY(`form_id`, `monday`),
	FOREIGN KEY (`form_id`) REFERENCES `forms`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
DROP INDEX `submissions_by_form`;--> statement-breakpoint
CREATE INDEX `submissions_own` ON `submissions` (`form_id`,`received_at`,`id`) WHERE repeat_of IS NULL;--> statement-breakpoint
CREATE INDEX `submissions_all` ON `submissions` (`form_id`);--> statement-breakpoint
DROP INDEX `deliveries_due`;--> statement-breakpoint
DROP INDEX `deliveries_by_time`;--> statement-breakpoint
ALTER TABLE `deliveries` ADD `try_until` integer;--> statement-breakpoint
CREATE INDEX `deliveries_by_state` ON `deliveries` (`state`,`created_at`,`id`);--> statement-breakpoint
CREATE INDEX `deliveries_by_route` ON `deliveries` (`route_id`,`created_at`,`id`,`state`);--> statement-breakpoint
CREATE INDEX `deliveries_by_version` ON `deliveries` (`version_id`);--> statement-breakpoint
CREATE INDEX `deliveries_due` ON `deliveries` (`route_id`,`state`,`next_attempt_at`);--> statement-breakpoint
CREATE INDEX `deliveries_by_time` ON `deliveries` (`created_at`,`id`,`state`);--> statement-breakpoint
ALTER TABLE `arrivals` ADD `tries` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `arrivals` ADD `found` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `arrivals` ADD `repeats` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `arrivals` ADD `form_id` text;--> statement-breakpoint
ALTER TABLE `arrivals` ADD `about` text;--> statement-breakpoint
CREATE INDEX `arrivals_first` ON `arrivals` (`intake_id`,`digest`,`received_at`) WHERE found > repeats;--> statement-breakpoint
ALTER TABLE `targets` ADD `patience` text;--> statement-breakpoint
UPDATE `routes` SET `draft` = json_remove(json_set(`draft`, '$.terms.hours', 24), '$.terms.tries');--> statement-breakpoint
UPDATE `versions` SET `definition` = json_remove(json_set(`definition`, '$.terms.hours', 24), '$.terms.tries');--> statement-breakpoint
UPDATE `arrivals` SET
	`found` = (SELECT count(*) FROM `submissions` s WHERE s.`arrival_id` = `arrivals`.`id`),
	`repeats` = (SELECT count(*) FROM `submissions` s WHERE s.`arrival_id` = `arrivals`.`id` AND s.`repeat_of` IS NOT NULL),
	`form_id` = (SELECT s.`form_id` FROM `submissions` s WHERE s.`arrival_id` = `arrivals`.`id` ORDER BY s.`position` LIMIT 1),
	`about` = (SELECT group_concat(said, ' · ') FROM (SELECT json_extract(f.value, '$.value') AS said FROM `submissions` s, json_each(s.`data`, '$.fields') f WHERE s.`arrival_id` = `arrivals`.`id` AND s.`position` = 0 AND json_type(f.value, '$.value') IN ('text', 'integer', 'real') AND length(json_extract(f.value, '$.value')) BETWEEN 1 AND 40 LIMIT 3));--> statement-breakpoint
INSERT INTO `form_weeks` (`form_id`, `monday`, `submissions`, `filled`)
	SELECT t.form_id, t.monday, t.n, coalesce((
		SELECT json_group_object(k, c) FROM (
			SELECT k, sum(c) AS c FROM (
				SELECT s.`id`, json_extract(e.value, '$.key') AS k, 1 AS c FROM `submissions` s, json_each(s.`data`, '$.fields') e WHERE s.`repeat_of` IS NULL AND s.`form_id` = t.form_id AND date(s.`received_at` / 1000, 'unixepoch', 'weekday 0', '-6 days') = t.monday
				UNION SELECT s.`id`, json_extract(e.value, '$.field'), 1 FROM `submissions` s, json_each(s.`data`, '$.files') e WHERE s.`repeat_of` IS NULL AND s.`form_id` = t.form_id AND date(s.`received_at` / 1000, 'unixepoch', 'weekday 0', '-6 days') = t.monday
				UNION SELECT s.`id`, json_extract(e.value, '$.key'), 0 FROM `submissions` s, json_each(s.`data`, '$.questions') e WHERE s.`repeat_of` IS NULL AND s.`form_id` = t.form_id AND date(s.`received_at` / 1000, 'unixepoch', 'weekday 0', '-6 days') = t.monday
			) GROUP BY k
		)
	), '{}')
	FROM (SELECT `form_id`, date(`received_at` / 1000, 'unixepoch', 'weekday 0', '-6 days') AS monday, count(*) AS n FROM `submissions` WHERE `repeat_of` IS NULL GROUP BY 1, 2) t;
