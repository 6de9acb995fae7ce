ALTER TABLE "versions" ADD COLUMN "state" text DEFAULT 'waiting' NOT NULL;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "fault" jsonb;--> statement-breakpoint
CREATE INDEX "versions_unjudged" ON "versions" USING btree ("id") WHERE "versions"."state" <> 'judged';--> statement-breakpoint
UPDATE "versions" SET "state" = 'judged' WHERE "class_name" <> '';
