DROP INDEX `arrivals_waiting`;--> statement-breakpoint
DROP INDEX `arrivals_by_state`;--> statement-breakpoint
CREATE INDEX `arrivals_open` ON `arrivals` (`state`,`lane`,`received_at`,`id`) WHERE state IN ('waiting', 'reading', 'unread');--> statement-breakpoint
DROP INDEX `deliveries_by_time`;--> statement-breakpoint
DROP INDEX `deliveries_by_route`;--> statement-breakpoint
CREATE INDEX `deliveries_by_time` ON `deliveries` (`created_at`,`id`);--> statement-breakpoint
CREATE INDEX `deliveries_by_route` ON `deliveries` (`route_id`,`created_at`,`id`);