CREATE TABLE "intake_presets" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"name" text NOT NULL,
	"options" jsonb NOT NULL,
	"generator" text DEFAULT '' NOT NULL,
	"folder" text DEFAULT '' NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "deliveries" ADD COLUMN "intake" jsonb;--> statement-breakpoint
ALTER TABLE "deliveries" ADD COLUMN "suggested" uuid;--> statement-breakpoint
ALTER TABLE "intake_presets" ADD CONSTRAINT "intake_presets_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "intake_presets_name" ON "intake_presets" USING btree ("project_id","name");--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_suggested_intake_presets_id_fk" FOREIGN KEY ("suggested") REFERENCES "public"."intake_presets"("id") ON DELETE set null ON UPDATE no action;