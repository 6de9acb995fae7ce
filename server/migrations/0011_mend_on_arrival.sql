ALTER TABLE "intake_presets" ADD COLUMN "mend" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "mend_safely" boolean DEFAULT false NOT NULL;