CREATE TABLE "bulk_changes" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"project_id" uuid NOT NULL,
	"by" text NOT NULL,
	"rule" text NOT NULL,
	"remedy" text NOT NULL,
	"body" jsonb NOT NULL,
	"undone" boolean DEFAULT false NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "bulk_changes" ADD CONSTRAINT "bulk_changes_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bulk_changes_project" ON "bulk_changes" USING btree ("project_id","created");