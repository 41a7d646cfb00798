ALTER TABLE "media" ALTER COLUMN "frames" SET DATA TYPE bigint;--> statement-breakpoint
ALTER TABLE "prints" ALTER COLUMN "start" SET DATA TYPE bigint;--> statement-breakpoint
ALTER TABLE "prints" ALTER COLUMN "end" SET DATA TYPE bigint;--> statement-breakpoint
ALTER TABLE "recordings" ALTER COLUMN "start" SET DATA TYPE bigint;--> statement-breakpoint
ALTER TABLE "recordings" ADD COLUMN "reason" text;--> statement-breakpoint
ALTER TABLE "recordings" ADD COLUMN "format" jsonb;--> statement-breakpoint
ALTER TABLE "recordings" ADD COLUMN "facts" jsonb;