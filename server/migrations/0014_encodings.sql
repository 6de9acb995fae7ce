CREATE TABLE "encodings" (
	"key" text PRIMARY KEY NOT NULL,
	"source" text NOT NULL,
	"facts" jsonb NOT NULL,
	"file" text NOT NULL,
	"picture" text NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE INDEX "encodings_source" ON "encodings" USING btree ("source");