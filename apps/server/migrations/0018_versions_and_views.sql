CREATE SEQUENCE "public"."setup_version_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1;--> statement-breakpoint
CREATE TABLE "opened_view" (
	"token" text PRIMARY KEY NOT NULL,
	"view" jsonb NOT NULL,
	"ids" bigint[] NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "place" ALTER COLUMN "setup_version" SET DATA TYPE bigint;--> statement-breakpoint
ALTER TABLE "place" ALTER COLUMN "setup_version" SET DEFAULT nextval('setup_version_seq');--> statement-breakpoint
CREATE INDEX "opened_view_at" ON "opened_view" USING btree ("at");--> statement-breakpoint
SELECT setval('setup_version_seq', (SELECT coalesce(max(setup_version), 0) + 1 FROM place));
--> statement-breakpoint
ALTER TABLE "opened_view" SET UNLOGGED;
--> statement-breakpoint
ALTER TABLE "opened_view" ALTER COLUMN "ids" SET STORAGE EXTERNAL;
--> statement-breakpoint
-- A pin is part of the set-up of its place. Of one that goes with its listing nobody can tell the place any more: then it is all of them.
CREATE FUNCTION pin_is_setup() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE of bigint := (SELECT place_id FROM listing WHERE id = CASE TG_OP WHEN 'DELETE' THEN OLD.listing_id ELSE NEW.listing_id END);
BEGIN
  UPDATE place SET setup_version = nextval('setup_version_seq') WHERE of IS NULL OR id = of;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER pin_is_setup AFTER INSERT OR UPDATE OR DELETE ON pin FOR EACH ROW EXECUTE FUNCTION pin_is_setup();
