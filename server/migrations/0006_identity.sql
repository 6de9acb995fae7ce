CREATE TABLE "dispatches" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"by" text NOT NULL,
	"target" text NOT NULL,
	"state" text NOT NULL,
	"chosen" jsonb,
	"packed" integer DEFAULT 0 NOT NULL,
	"total" integer DEFAULT 0 NOT NULL,
	"manifest" jsonb,
	"held" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"sha256" text,
	"size_bytes" bigint,
	"fault" jsonb,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "facts" DROP CONSTRAINT "facts_key_measure_version_pk";--> statement-breakpoint
ALTER TABLE "outputs" ALTER COLUMN "name" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "facts" ADD COLUMN "scope" text DEFAULT 'file' NOT NULL;--> statement-breakpoint
-- One row a key, under what was measured of it: facts of textures no longer go stale with those of meshes
DELETE FROM "facts" AS older USING "facts" AS newer WHERE older."key" = newer."key" AND older."measure" = 'file' AND newer."measure" = 'file' AND older."version" < newer."version";--> statement-breakpoint
UPDATE "facts" SET "measure" = 'texture', "version" = "version" % 10000 WHERE "measure" = 'file' AND "body"->>'kind' IN ('png', 'jpeg', 'webp', 'tga', 'ktx2', 'dds', 'tiff', 'avif', 'exr', 'hdr');--> statement-breakpoint
UPDATE "facts" SET "measure" = 'mesh' WHERE "measure" = 'file' AND "body"->>'kind' IN ('glb', 'gltf', 'obj', 'stl', 'ply', 'fbx', 'dae');--> statement-breakpoint
UPDATE "facts" SET "version" = 1 WHERE "measure" = 'file';--> statement-breakpoint
ALTER TABLE "facts" ADD CONSTRAINT "facts_key_scope_measure_version_pk" PRIMARY KEY("key","scope","measure","version");--> statement-breakpoint
ALTER TABLE "version_files" ADD COLUMN "nodes" jsonb;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "judged_with" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "dispatches" ADD CONSTRAINT "dispatches_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "dispatches_number" ON "dispatches" USING btree ("project_id","number");