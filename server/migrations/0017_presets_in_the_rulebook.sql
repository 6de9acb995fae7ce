-- Presets stand in the rulebook that is in force, by name; deliveries name the one that fits
UPDATE "rulebook_revisions" AS r SET "body" = r."body" || jsonb_build_object('intake', p."presets")
FROM (
  SELECT "project_id", jsonb_object_agg(
    left(btrim("name"), 60),
    jsonb_build_object('options', "options", 'generator', "generator", 'folder', "folder", 'mend', "mend", 'apart', "apart")
  ) AS "presets"
  FROM "intake_presets" GROUP BY "project_id"
) AS p, "projects" AS j
WHERE j."id" = p."project_id" AND r."project_id" = j."id" AND r."number" = j."rulebook_revision";--> statement-breakpoint
ALTER TABLE "deliveries" DROP CONSTRAINT "deliveries_suggested_intake_presets_id_fk";--> statement-breakpoint
ALTER TABLE "deliveries" ALTER COLUMN "suggested" SET DATA TYPE text;--> statement-breakpoint
UPDATE "deliveries" AS d SET "suggested" = (SELECT p."name" FROM "intake_presets" AS p WHERE p."id"::text = d."suggested")
WHERE d."suggested" IS NOT NULL;--> statement-breakpoint
DROP TABLE "intake_presets" CASCADE;
