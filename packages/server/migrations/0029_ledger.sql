CREATE TABLE `arrival_bodies` (
	`arrival_id` text PRIMARY KEY NOT NULL,
	`body` blob NOT NULL,
	FOREIGN KEY (`arrival_id`) REFERENCES `arrivals`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `ledger_state` (
	`name` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `seen` (
	`intake_id` text NOT NULL,
	`print` text NOT NULL,
	`submission_id` text NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`intake_id`, `print`),
	FOREIGN KEY (`intake_id`) REFERENCES `intakes`(`id`) ON UPDATE no action ON DELETE cascade
) WITHOUT ROWID;
--> statement-breakpoint
CREATE TABLE `submission_numbers` (
	`number` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`submission_id` text NOT NULL,
	FOREIGN KEY (`submission_id`) REFERENCES `submissions`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `submission_numbers_submissionId_unique` ON `submission_numbers` (`submission_id`);--> statement-breakpoint
DROP INDEX `arrivals_first`;--> statement-breakpoint
ALTER TABLE `arrivals` ADD `lane` text DEFAULT 'quick' NOT NULL;--> statement-breakpoint
ALTER TABLE `arrivals` ADD `reading_revision` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX `arrivals_waiting` ON `arrivals` (`lane`,`received_at`,`id`) WHERE state = 'waiting';--> statement-breakpoint
UPDATE `submissions` SET `position` = `position` + 1000000 + rowid WHERE rowid NOT IN (SELECT min(rowid) FROM `submissions` GROUP BY `arrival_id`, `position`);--> statement-breakpoint
DROP INDEX `submissions_by_arrival`;--> statement-breakpoint
CREATE UNIQUE INDEX `submissions_by_arrival` ON `submissions` (`arrival_id`,`position`);--> statement-breakpoint
ALTER TABLE `deliveries` ADD `spent` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `forms` ADD `submissions` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `intakes` ADD `reading_revision` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
INSERT INTO `arrival_bodies` (`arrival_id`, `body`) SELECT `id`, `body` FROM `arrivals`;--> statement-breakpoint
CREATE VIRTUAL TABLE `submission_words` USING fts5(`words`, content='', contentless_delete=1, detail=none, tokenize='unicode61 remove_diacritics 2');--> statement-breakpoint
INSERT INTO `submission_numbers` (`submission_id`) SELECT t.`submission_id` FROM `submission_texts` t JOIN `submissions` s ON s.`id` = t.`submission_id` ORDER BY s.`received_at`, s.`id`;--> statement-breakpoint
INSERT INTO `submission_words` (rowid, `words`) SELECT n.`number`, t.`text` FROM `submission_numbers` n JOIN `submission_texts` t ON t.`submission_id` = n.`submission_id`;--> statement-breakpoint
CREATE TRIGGER `submission_words_gone` AFTER DELETE ON `submission_numbers` BEGIN DELETE FROM `submission_words` WHERE rowid = old.`number`; END;--> statement-breakpoint
UPDATE `forms` SET `submissions` = (SELECT count(*) FROM `submissions` s WHERE s.`form_id` = `forms`.`id` AND s.`repeat_of` IS NULL);--> statement-breakpoint
CREATE TRIGGER `submissions_counted` AFTER INSERT ON `submissions` WHEN new.`repeat_of` IS NULL BEGIN UPDATE `forms` SET `submissions` = `submissions` + 1 WHERE `id` = new.`form_id`; END;--> statement-breakpoint
CREATE TRIGGER `submissions_uncounted` AFTER DELETE ON `submissions` WHEN old.`repeat_of` IS NULL BEGIN UPDATE `forms` SET `submissions` = `submissions` - 1 WHERE `id` = old.`form_id`; END;--> statement-breakpoint
CREATE TRIGGER `submissions_recounted` AFTER UPDATE OF `form_id`, `repeat_of` ON `submissions` BEGIN UPDATE `forms` SET `submissions` = `submissions` - (old.`repeat_of` IS NULL AND `id` = old.`form_id`) + (new.`repeat_of` IS NULL AND `id` = new.`form_id`) WHERE `id` IN (old.`form_id`, new.`form_id`); END;--> statement-breakpoint
UPDATE `arrivals` SET `lane` = 'slow' WHERE `size` > 256000 OR `tries` > 0;--> statement-breakpoint
UPDATE `deliveries` SET `spent` = max(0, (SELECT coalesce(json_extract(v.`definition`, '$.terms.hours'), 24) FROM `versions` v WHERE v.`id` = `deliveries`.`version_id`) * 3600000 - (`try_until` - coalesce(`next_attempt_at`, `try_until`))) WHERE `try_until` IS NOT NULL AND `state` IN ('waiting', 'sending');--> statement-breakpoint
INSERT INTO `ledger_state` (`name`, `value`) SELECT 'seen', '' WHERE EXISTS (SELECT 1 FROM `submissions`);
