ALTER TABLE "listing_key" ADD COLUMN "cause" text DEFAULT '' NOT NULL;--> statement-breakpoint
INSERT INTO "dirty" ("place_id", "unit_id") SELECT DISTINCT "place_id", "unit_id" FROM "listing" ON CONFLICT DO NOTHING;
