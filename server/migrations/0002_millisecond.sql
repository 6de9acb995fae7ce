ALTER TABLE "assets" ALTER COLUMN "updated" SET DATA TYPE timestamp(3) with time zone;--> statement-breakpoint
ALTER TABLE "assets" ALTER COLUMN "updated" SET DEFAULT now();