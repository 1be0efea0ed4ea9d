CREATE TABLE `batches` (
	`route_id` text PRIMARY KEY NOT NULL,
	`report` text NOT NULL,
	FOREIGN KEY (`route_id`) REFERENCES `routes`(`id`) ON UPDATE no action ON DELETE cascade
);
