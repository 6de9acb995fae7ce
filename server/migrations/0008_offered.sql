ALTER TABLE "versions" ADD COLUMN "offered" text;--> statement-breakpoint
CREATE INDEX "versions_offered" ON "versions" USING btree ("offered") WHERE "versions"."offered" is not null;