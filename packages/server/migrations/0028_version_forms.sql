ALTER TABLE `versions` ADD `form_id` text DEFAULT '' NOT NULL;--> statement-breakpoint
UPDATE `versions` SET `form_id` = (SELECT `form_id` FROM `routes` WHERE `routes`.`id` = `versions`.`route_id`);
