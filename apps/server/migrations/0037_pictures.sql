ALTER TABLE "media" ADD COLUMN "key" text NOT NULL;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "hash" text NOT NULL;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "plain" integer NOT NULL;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "blank" integer NOT NULL;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "changes" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "alt" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
CREATE INDEX "media_key" ON "media" USING btree ("key");--> statement-breakpoint
CREATE INDEX "media_hash" ON "media" USING btree ("hash");