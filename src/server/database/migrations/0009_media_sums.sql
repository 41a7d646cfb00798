ALTER TABLE "media" ADD COLUMN "bytes" bigint;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "sha256" text;