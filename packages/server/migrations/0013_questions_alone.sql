ALTER TABLE `form_weeks` DROP COLUMN `filled`;--> statement-breakpoint
ALTER TABLE `forms` DROP COLUMN `schema`;
--> statement-breakpoint
UPDATE `calls_done` SET `done` = json_remove(json_set(`done`, '$.compared', json(json_extract(`done`, '$.held'))), '$.held')
WHERE json_type(`done`, '$.held') IS NOT NULL;
--> statement-breakpoint
UPDATE `routes` SET `trial` = json_set(`trial`, '$.done', json((
	SELECT json_group_array(json(CASE WHEN json_type(d.`value`, '$.held') IS NULL THEN d.`value` ELSE json_remove(json_set(d.`value`, '$.compared', json(json_extract(d.`value`, '$.held'))), '$.held') END)) FROM json_each(`trial`, '$.done') d
))) WHERE `trial` LIKE '%"held":%';
