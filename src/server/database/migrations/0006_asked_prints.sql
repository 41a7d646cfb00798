ALTER TABLE "prints" ADD COLUMN "asked" jsonb;--> statement-breakpoint
ALTER TABLE "prints" ADD COLUMN "begun" integer DEFAULT 0 NOT NULL;