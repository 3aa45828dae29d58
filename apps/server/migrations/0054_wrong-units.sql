-- A measure in a unit the channel does not take is mended in the fill now: its cause is another.
INSERT INTO "dirty" ("place_id", "unit_id") SELECT DISTINCT "place_id", "unit_id" FROM "listing" WHERE "findings" @> '[{"check":"unit"}]' ON CONFLICT DO NOTHING;
