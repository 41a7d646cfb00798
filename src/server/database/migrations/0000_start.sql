CREATE TABLE "edits" (
	"session" text NOT NULL,
	"revision" integer NOT NULL,
	"edit_id" text NOT NULL,
	"kind" text NOT NULL,
	"undoes" integer,
	"label" text NOT NULL,
	"edits" jsonb NOT NULL,
	"patches" jsonb NOT NULL,
	"inverse" jsonb NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "edits_session_revision_pk" PRIMARY KEY("session","revision")
);
--> statement-breakpoint
CREATE TABLE "media" (
	"id" text PRIMARY KEY NOT NULL,
	"session" text NOT NULL,
	"file" text NOT NULL,
	"kind" text NOT NULL,
	"channels" integer NOT NULL,
	"frames" integer NOT NULL,
	"sample_rate" integer NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "prints" (
	"id" text PRIMARY KEY NOT NULL,
	"session" text NOT NULL,
	"version" integer NOT NULL,
	"state" text NOT NULL,
	"start" integer NOT NULL,
	"end" integer NOT NULL,
	"doc" jsonb NOT NULL,
	"proof" jsonb,
	"message" text,
	"seconds_ms" integer,
	"started_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "recordings" (
	"id" text PRIMARY KEY NOT NULL,
	"session" text NOT NULL,
	"track" text NOT NULL,
	"take" integer NOT NULL,
	"start" integer NOT NULL,
	"channels" integer NOT NULL,
	"state" text NOT NULL,
	"file" text NOT NULL,
	"dry_file" text NOT NULL,
	"chains" jsonb NOT NULL,
	"line_names" jsonb NOT NULL,
	"started_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"id" text PRIMARY KEY NOT NULL,
	"revision" integer NOT NULL,
	"doc" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "edits" ADD CONSTRAINT "edits_session_sessions_id_fk" FOREIGN KEY ("session") REFERENCES "public"."sessions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "media" ADD CONSTRAINT "media_session_sessions_id_fk" FOREIGN KEY ("session") REFERENCES "public"."sessions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "prints" ADD CONSTRAINT "prints_session_sessions_id_fk" FOREIGN KEY ("session") REFERENCES "public"."sessions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recordings" ADD CONSTRAINT "recordings_session_sessions_id_fk" FOREIGN KEY ("session") REFERENCES "public"."sessions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "edits_by_id" ON "edits" USING btree ("session","edit_id");