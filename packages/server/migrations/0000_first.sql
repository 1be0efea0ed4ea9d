CREATE TABLE `arrivals` (
	`id` text PRIMARY KEY NOT NULL,
	`intake_id` text NOT NULL,
	`received_at` integer NOT NULL,
	`method` text NOT NULL,
	`url` text NOT NULL,
	`content_type` text,
	`headers` text NOT NULL,
	`sender` text,
	`size` integer NOT NULL,
	`body` blob NOT NULL,
	`cut` integer NOT NULL,
	`state` text NOT NULL,
	`trouble` text,
	FOREIGN KEY (`intake_id`) REFERENCES `intakes`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `arrivals_by_intake` ON `arrivals` (`intake_id`,`received_at`);--> statement-breakpoint
CREATE INDEX `arrivals_by_state` ON `arrivals` (`state`);--> statement-breakpoint
CREATE INDEX `arrivals_by_time` ON `arrivals` (`received_at`);--> statement-breakpoint
CREATE TABLE `attempts` (
	`id` text PRIMARY KEY NOT NULL,
	`delivery_id` text NOT NULL,
	`number` integer NOT NULL,
	`started_at` integer NOT NULL,
	`milliseconds` integer NOT NULL,
	`request` text NOT NULL,
	`status` integer,
	`response` text,
	`outcome` text NOT NULL,
	`message` text NOT NULL,
	FOREIGN KEY (`delivery_id`) REFERENCES `deliveries`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `attempts_by_delivery` ON `attempts` (`delivery_id`,`number`);--> statement-breakpoint
CREATE TABLE `deliveries` (
	`id` text PRIMARY KEY NOT NULL,
	`route_id` text NOT NULL,
	`version_id` text NOT NULL,
	`submission_id` text NOT NULL,
	`state` text NOT NULL,
	`run` integer NOT NULL,
	`idempotency_key` text NOT NULL,
	`created_at` integer NOT NULL,
	`finished_at` integer,
	`next_attempt_at` integer,
	`attempts` integer NOT NULL,
	`attempts_before` integer NOT NULL,
	`reason` text,
	`about` text NOT NULL,
	FOREIGN KEY (`route_id`) REFERENCES `routes`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`version_id`) REFERENCES `versions`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`submission_id`) REFERENCES `submissions`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `deliveries_once` ON `deliveries` (`route_id`,`submission_id`,`run`);--> statement-breakpoint
CREATE INDEX `deliveries_due` ON `deliveries` (`state`,`next_attempt_at`);--> statement-breakpoint
CREATE INDEX `deliveries_by_time` ON `deliveries` (`created_at`);--> statement-breakpoint
CREATE INDEX `deliveries_by_submission` ON `deliveries` (`submission_id`);--> statement-breakpoint
CREATE TABLE `forms` (
	`id` text PRIMARY KEY NOT NULL,
	`intake_id` text NOT NULL,
	`key` text NOT NULL,
	`name` text NOT NULL,
	`schema` text NOT NULL,
	`last_at` integer,
	FOREIGN KEY (`intake_id`) REFERENCES `intakes`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `forms_by_key` ON `forms` (`intake_id`,`key`);--> statement-breakpoint
CREATE TABLE `intakes` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`slug` text NOT NULL,
	`state` text NOT NULL,
	`size_limit` integer NOT NULL,
	`reply` text NOT NULL,
	`reply_text` text NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `intakes_slug_unique` ON `intakes` (`slug`);--> statement-breakpoint
CREATE TABLE `routes` (
	`id` text PRIMARY KEY NOT NULL,
	`form_id` text NOT NULL,
	`state` text NOT NULL,
	`draft` text NOT NULL,
	`live_since` integer,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`form_id`) REFERENCES `forms`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `sessions` (
	`token_hash` text PRIMARY KEY NOT NULL,
	`user_id` text NOT NULL,
	`expires_at` integer NOT NULL,
	FOREIGN KEY (`user_id`) REFERENCES `users`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `strays` (
	`id` text PRIMARY KEY NOT NULL,
	`at` integer NOT NULL,
	`method` text NOT NULL,
	`url` text NOT NULL,
	`headers` text NOT NULL,
	`sender` text,
	`size` integer NOT NULL,
	`body` blob NOT NULL
);
--> statement-breakpoint
CREATE TABLE `submissions` (
	`id` text PRIMARY KEY NOT NULL,
	`arrival_id` text NOT NULL,
	`form_id` text NOT NULL,
	`position` integer NOT NULL,
	`received_at` integer NOT NULL,
	`builder_id` text,
	`data` text NOT NULL,
	`repeat_of` text,
	FOREIGN KEY (`arrival_id`) REFERENCES `arrivals`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`form_id`) REFERENCES `forms`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `submissions_by_form` ON `submissions` (`form_id`,`received_at`);--> statement-breakpoint
CREATE INDEX `submissions_by_arrival` ON `submissions` (`arrival_id`);--> statement-breakpoint
CREATE INDEX `submissions_by_builder_id` ON `submissions` (`form_id`,`builder_id`);--> statement-breakpoint
CREATE TABLE `targets` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`base_url` text NOT NULL,
	`discovery_path` text NOT NULL,
	`secret` blob,
	`operations` text NOT NULL,
	`read_at` integer,
	`fault` text,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `users` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`role` text NOT NULL,
	`password_hash` text NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `versions` (
	`id` text PRIMARY KEY NOT NULL,
	`route_id` text NOT NULL,
	`number` integer NOT NULL,
	`definition` text NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`route_id`) REFERENCES `routes`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `versions_by_route` ON `versions` (`route_id`,`number`);