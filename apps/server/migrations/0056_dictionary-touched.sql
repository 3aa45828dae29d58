ALTER TABLE "touch" ADD COLUMN "dictionary" boolean DEFAULT false NOT NULL;--> statement-breakpoint
CREATE INDEX "touch_dictionary" ON "touch" USING btree ("id") WHERE dictionary;
--> statement-breakpoint
CREATE FUNCTION touched_dictionary() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO touch (dictionary) VALUES (true); RETURN NULL; END $$;
--> statement-breakpoint
DO $$ DECLARE t text; BEGIN
  FOREACH t IN ARRAY ARRAY['attribute', 'list_value', 'trust_policy', 'supplier', 'company'] LOOP
    EXECUTE format('DROP TRIGGER IF EXISTS touched ON %I', t);
    EXECUTE format('CREATE TRIGGER touched AFTER INSERT OR UPDATE OR DELETE OR TRUNCATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION touched_dictionary()', t);
  END LOOP;
END $$;
