CREATE EXTENSION IF NOT EXISTS pg_trgm;--> statement-breakpoint
CREATE TABLE "asset_names" (
	"asset_id" uuid NOT NULL,
	"what" text NOT NULL,
	"name" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "bulk_changes" ADD COLUMN "state" text DEFAULT 'done' NOT NULL;--> statement-breakpoint
ALTER TABLE "findings" ADD COLUMN "offers" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "stops" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "cautions" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "notes" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "stations" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "family" text GENERATED ALWAYS AS (coalesce(substring(shown_name from '^([a-z0-9]+)_'), 'other')) STORED NOT NULL;--> statement-breakpoint
INSERT INTO "asset_names" ("asset_id", "what", "name") SELECT v."asset_id", part->>'what', part->>'name' FROM "versions" v JOIN "assets" a ON a."id" = v."asset_id" AND a."current_version" = v."number" CROSS JOIN LATERAL jsonb_array_elements(v."names") AS part;--> statement-breakpoint
INSERT INTO "asset_names" ("asset_id", "what", "name") SELECT v."asset_id", 'file', f."path" FROM "version_files" f JOIN "versions" v ON v."id" = f."version_id" JOIN "assets" a ON a."id" = v."asset_id" AND a."current_version" = v."number";--> statement-breakpoint
UPDATE "findings" SET "offers" = coalesce((SELECT array_agg(DISTINCT offer->>'remedy') FROM jsonb_array_elements("body"->'remedies') AS offer), '{}');--> statement-breakpoint
UPDATE "versions" SET "stops" = c.stops, "cautions" = c.cautions, "notes" = c.notes, "stations" = c.stations FROM (SELECT "version_id", count(*) FILTER (WHERE "level" = 'stop') AS stops, count(*) FILTER (WHERE "level" = 'caution') AS cautions, count(*) FILTER (WHERE "level" = 'note') AS notes, bit_or(1 << (array_position(ARRAY['files', 'names', 'scale', 'mesh', 'slots', 'colour', 'compression', 'uvs', 'lods', 'collision'], "station") - 1)) AS stations FROM "findings" GROUP BY "version_id") c WHERE "versions"."id" = c."version_id";--> statement-breakpoint
ALTER TABLE "asset_names" ADD CONSTRAINT "asset_names_asset_id_assets_id_fk" FOREIGN KEY ("asset_id") REFERENCES "public"."assets"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "asset_names_asset" ON "asset_names" USING btree ("asset_id");--> statement-breakpoint
CREATE INDEX "asset_names_letters" ON "asset_names" USING gin ("name" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "asset_names_begin" ON "asset_names" USING btree (left(lower("name"), 40) text_pattern_ops);--> statement-breakpoint
ALTER TABLE "versions" DROP COLUMN "names";