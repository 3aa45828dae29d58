ALTER TABLE "media" ADD COLUMN "key" text;--> statement-breakpoint
UPDATE "media" SET "key" = lower(name);--> statement-breakpoint
ALTER TABLE "media" ALTER COLUMN "key" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "hash" text;--> statement-breakpoint
UPDATE "media" SET "hash" = '';--> statement-breakpoint
ALTER TABLE "media" ALTER COLUMN "hash" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "plain" integer;--> statement-breakpoint
UPDATE "media" SET "plain" = 0;--> statement-breakpoint
ALTER TABLE "media" ALTER COLUMN "plain" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "blank" integer;--> statement-breakpoint
UPDATE "media" SET "blank" = 0;--> statement-breakpoint
ALTER TABLE "media" ALTER COLUMN "blank" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "changes" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "alt" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
CREATE INDEX "media_key" ON "media" USING btree ("key");--> statement-breakpoint
CREATE INDEX "media_hash" ON "media" USING btree ("hash");