CREATE TABLE "layouts" (
	"id" text PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "rooms" (
	"id" text PRIMARY KEY NOT NULL,
	"revision" integer NOT NULL,
	"room" jsonb NOT NULL,
	"before" jsonb NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
