ALTER TABLE "category_map" ADD COLUMN "second" text;--> statement-breakpoint
ALTER TABLE "category_map" ADD COLUMN "splits" jsonb DEFAULT '[]'::jsonb NOT NULL;