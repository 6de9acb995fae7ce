CREATE TYPE "public"."act_state" AS ENUM('working', 'done', 'undoing');--> statement-breakpoint
CREATE TYPE "public"."asset_kind" AS ENUM('mesh', 'texture-set');--> statement-breakpoint
CREATE TYPE "public"."delivery_state" AS ENUM('receiving', 'measuring', 'done', 'cancelled');--> statement-breakpoint
CREATE TYPE "public"."dispatch_state" AS ENUM('waiting', 'packing', 'done', 'failed');--> statement-breakpoint
CREATE TYPE "public"."file_part" AS ENUM('mesh', 'buffer', 'texture', 'surface');--> statement-breakpoint
CREATE TYPE "public"."file_state" AS ENUM('waiting', 'measuring', 'measured', 'refused', 'set-aside', 'apart');--> statement-breakpoint
CREATE TYPE "public"."finding_level" AS ENUM('stop', 'caution', 'note');--> statement-breakpoint
CREATE TYPE "public"."named_kind" AS ENUM('asset', 'texture', 'slot', 'node', 'clip', 'file');--> statement-breakpoint
CREATE TYPE "public"."station" AS ENUM('files', 'names', 'scale', 'mesh', 'slots', 'colour', 'compression', 'uvs', 'lods', 'collision');--> statement-breakpoint
CREATE TYPE "public"."verdict" AS ENUM('clear', 'held');--> statement-breakpoint
CREATE TYPE "public"."version_state" AS ENUM('waiting', 'judging', 'judged', 'failed');--> statement-breakpoint
ALTER TABLE "asset_names" ALTER COLUMN "what" SET DATA TYPE "public"."named_kind" USING "what"::"public"."named_kind";--> statement-breakpoint
ALTER TABLE "assets" ALTER COLUMN "kind" SET DATA TYPE "public"."asset_kind" USING "kind"::"public"."asset_kind";--> statement-breakpoint
ALTER TABLE "deliveries" ALTER COLUMN "state" SET DATA TYPE "public"."delivery_state" USING "state"::"public"."delivery_state";--> statement-breakpoint
ALTER TABLE "delivery_files" ALTER COLUMN "state" SET DATA TYPE "public"."file_state" USING "state"::"public"."file_state";--> statement-breakpoint
ALTER TABLE "findings" ALTER COLUMN "station" SET DATA TYPE "public"."station" USING "station"::"public"."station";--> statement-breakpoint
ALTER TABLE "findings" ALTER COLUMN "level" SET DATA TYPE "public"."finding_level" USING "level"::"public"."finding_level";--> statement-breakpoint
ALTER TABLE "version_files" ALTER COLUMN "part" SET DATA TYPE "public"."file_part" USING "part"::"public"."file_part";--> statement-breakpoint
DROP INDEX "versions_unjudged";--> statement-breakpoint
ALTER TABLE "versions" ALTER COLUMN "state" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "versions" ALTER COLUMN "state" SET DATA TYPE "public"."version_state" USING "state"::"public"."version_state";--> statement-breakpoint
ALTER TABLE "versions" ALTER COLUMN "state" SET DEFAULT 'waiting'::"public"."version_state";--> statement-breakpoint
CREATE INDEX "versions_unjudged" ON "versions" USING btree ("id") WHERE "versions"."state" <> 'judged';--> statement-breakpoint
ALTER TABLE "versions" ALTER COLUMN "verdict" SET DATA TYPE "public"."verdict" USING "verdict"::"public"."verdict";--> statement-breakpoint
ALTER TABLE "bulk_changes" ALTER COLUMN "state" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "bulk_changes" ALTER COLUMN "state" SET DATA TYPE "public"."act_state" USING "state"::"public"."act_state";--> statement-breakpoint
ALTER TABLE "bulk_changes" ALTER COLUMN "state" SET DEFAULT 'done'::"public"."act_state";--> statement-breakpoint
ALTER TABLE "dispatches" ALTER COLUMN "state" SET DATA TYPE "public"."dispatch_state" USING "state"::"public"."dispatch_state";