ALTER TABLE `targets` ADD `consent` text;--> statement-breakpoint
ALTER TABLE `targets` ADD `consent_tokens` blob;