CREATE TABLE "waivers" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"asset_id" uuid,
	"rule" text NOT NULL,
	"scope" jsonb NOT NULL,
	"reason" text NOT NULL,
	"until" text,
	"value" double precision,
	"by" text NOT NULL,
	"act" uuid NOT NULL,
	"judged_for" text,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "findings" ADD COLUMN "waived" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "waived" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "waivers" ADD CONSTRAINT "waivers_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "waivers" ADD CONSTRAINT "waivers_asset_id_assets_id_fk" FOREIGN KEY ("asset_id") REFERENCES "public"."assets"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "waivers_project" ON "waivers" USING btree ("project_id","until");--> statement-breakpoint
CREATE INDEX "waivers_asset" ON "waivers" USING btree ("asset_id");