CREATE TABLE `proofs` (
	`id` text PRIMARY KEY NOT NULL,
	`route_id` text NOT NULL,
	`sample_id` text NOT NULL,
	`name` text NOT NULL,
	`submission` text NOT NULL,
	`answers` text NOT NULL,
	`approved` text NOT NULL,
	`loose` text NOT NULL,
	`calls` text NOT NULL,
	`at` integer NOT NULL,
	`by` text NOT NULL,
	FOREIGN KEY (`route_id`) REFERENCES `routes`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `proofs_by_route` ON `proofs` (`route_id`,`at`);