CREATE TABLE "people" (
	"seat" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"hue" integer NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "seats" (
	"session" text NOT NULL,
	"seat" text NOT NULL,
	"state" jsonb NOT NULL,
	"selected" jsonb,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "seats_session_seat_pk" PRIMARY KEY("session","seat")
);
--> statement-breakpoint
ALTER TABLE "edits" ADD COLUMN "seat" text;--> statement-breakpoint
ALTER TABLE "seats" ADD CONSTRAINT "seats_session_sessions_id_fk" FOREIGN KEY ("session") REFERENCES "public"."sessions"("id") ON DELETE cascade ON UPDATE no action;