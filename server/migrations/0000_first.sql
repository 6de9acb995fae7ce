CREATE TABLE "assets" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"class_choice" text,
	"target_choice" text,
	"current_version" integer NOT NULL,
	"updated" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "blobs" (
	"sha256" text PRIMARY KEY NOT NULL,
	"size_bytes" bigint NOT NULL,
	"kind" text NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "deliveries" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"by" text NOT NULL,
	"state" text NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "delivery_files" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"delivery_id" uuid NOT NULL,
	"path" text NOT NULL,
	"sha256" text,
	"size_bytes" bigint NOT NULL,
	"kind" text DEFAULT 'unknown' NOT NULL,
	"state" text NOT NULL,
	"fault" jsonb,
	"facts_key" text
);
--> statement-breakpoint
CREATE TABLE "events" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"project_id" uuid NOT NULL,
	"by" text DEFAULT '' NOT NULL,
	"body" jsonb NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "facts" (
	"key" text NOT NULL,
	"measure" text NOT NULL,
	"version" integer NOT NULL,
	"body" jsonb NOT NULL,
	"evidence" text,
	"thumbnail" text,
	"created" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "facts_key_measure_version_pk" PRIMARY KEY("key","measure","version")
);
--> statement-breakpoint
CREATE TABLE "findings" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"version_id" uuid NOT NULL,
	"rule" text NOT NULL,
	"station" text NOT NULL,
	"level" text NOT NULL,
	"fingerprint" text NOT NULL,
	"body" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "outputs" (
	"key" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"main" text NOT NULL,
	"results" jsonb NOT NULL,
	"files" jsonb NOT NULL,
	"thumbnail" text,
	"evidence" text,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "projects" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"rulebook_revision" integer DEFAULT 1 NOT NULL,
	"target" text NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "recipes" (
	"asset_id" uuid PRIMARY KEY NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	"body" jsonb NOT NULL,
	"history" jsonb DEFAULT '[]'::jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "rulebook_revisions" (
	"project_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"author" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"body" jsonb NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "rulebook_revisions_project_id_number_pk" PRIMARY KEY("project_id","number")
);
--> statement-breakpoint
CREATE TABLE "version_files" (
	"version_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"path" text NOT NULL,
	"part" text NOT NULL,
	"sha256" text NOT NULL,
	"size_bytes" bigint NOT NULL,
	"kind" text NOT NULL,
	"fault" jsonb,
	"facts_key" text,
	CONSTRAINT "version_files_version_id_path_pk" PRIMARY KEY("version_id","path")
);
--> statement-breakpoint
CREATE TABLE "versions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"asset_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"delivery_id" uuid NOT NULL,
	"main" text NOT NULL,
	"by" text NOT NULL,
	"shown_name" text NOT NULL,
	"class_name" text NOT NULL,
	"tally" jsonb NOT NULL,
	"verdict" text NOT NULL,
	"headline" text DEFAULT '' NOT NULL,
	"thumbnail" text,
	"output_key" text,
	"output_fault" jsonb,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "assets" ADD CONSTRAINT "assets_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "delivery_files" ADD CONSTRAINT "delivery_files_delivery_id_deliveries_id_fk" FOREIGN KEY ("delivery_id") REFERENCES "public"."deliveries"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "events" ADD CONSTRAINT "events_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "findings" ADD CONSTRAINT "findings_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recipes" ADD CONSTRAINT "recipes_asset_id_assets_id_fk" FOREIGN KEY ("asset_id") REFERENCES "public"."assets"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rulebook_revisions" ADD CONSTRAINT "rulebook_revisions_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "version_files" ADD CONSTRAINT "version_files_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_asset_id_assets_id_fk" FOREIGN KEY ("asset_id") REFERENCES "public"."assets"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_delivery_id_deliveries_id_fk" FOREIGN KEY ("delivery_id") REFERENCES "public"."deliveries"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "assets_name" ON "assets" USING btree ("project_id","kind","name");--> statement-breakpoint
CREATE INDEX "assets_updated" ON "assets" USING btree ("project_id","updated","id");--> statement-breakpoint
CREATE UNIQUE INDEX "deliveries_number" ON "deliveries" USING btree ("project_id","number");--> statement-breakpoint
CREATE UNIQUE INDEX "delivery_files_path" ON "delivery_files" USING btree ("delivery_id","path");--> statement-breakpoint
CREATE INDEX "delivery_files_state" ON "delivery_files" USING btree ("delivery_id","state");--> statement-breakpoint
CREATE INDEX "events_project" ON "events" USING btree ("project_id","id");--> statement-breakpoint
CREATE INDEX "findings_version" ON "findings" USING btree ("version_id");--> statement-breakpoint
CREATE INDEX "findings_rule" ON "findings" USING btree ("rule");--> statement-breakpoint
CREATE UNIQUE INDEX "versions_number" ON "versions" USING btree ("asset_id","number");--> statement-breakpoint
CREATE UNIQUE INDEX "versions_delivery" ON "versions" USING btree ("asset_id","delivery_id");