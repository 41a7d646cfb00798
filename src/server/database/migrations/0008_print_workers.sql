ALTER TABLE "prints" ADD COLUMN "worker" text;--> statement-breakpoint
ALTER TABLE "prints" ADD COLUMN "seen_at" timestamp with time zone;