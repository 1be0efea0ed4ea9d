ALTER TABLE `deliveries` ADD `tries` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `deliveries` ADD `lease_owner` text;--> statement-breakpoint
ALTER TABLE `deliveries` ADD `lease_until` integer;--> statement-breakpoint
CREATE INDEX `deliveries_leased` ON `deliveries` (`lease_until`) WHERE lease_until IS NOT NULL;--> statement-breakpoint
ALTER TABLE `targets` ADD `pace` text;--> statement-breakpoint
UPDATE `deliveries` SET `tries` = `attempts` - `attempts_before` WHERE `state` = 'waiting';
