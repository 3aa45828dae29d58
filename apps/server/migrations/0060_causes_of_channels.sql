-- What keeps listings back is said anew: causes are of a channel where what one would change is.
INSERT INTO "dirty" ("place_id", "unit_id") SELECT DISTINCT "place_id", "unit_id" FROM "listing" ON CONFLICT DO NOTHING;
