CREATE TABLE "kept_count" (
	"name" text PRIMARY KEY NOT NULL,
	"state" text NOT NULL,
	"body" jsonb NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "touch" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "touch_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1)
);
--> statement-breakpoint
CREATE FUNCTION touched() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO touch DEFAULT VALUES; RETURN NULL; END $$;
--> statement-breakpoint
DO $$ DECLARE t text; BEGIN
  FOREACH t IN ARRAY ARRAY['product', 'product_text', 'record', 'listing', 'category', 'category_map', 'fill', 'pin', 'place', 'channel', 'rulebook', 'trust_policy', 'supplier', 'attribute', 'stock_level', 'serves', 'assortment'] LOOP
    IF to_regclass(t) IS NOT NULL THEN
      EXECUTE format('CREATE TRIGGER touched AFTER INSERT OR UPDATE OR DELETE OR TRUNCATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION touched()', t);
    END IF;
  END LOOP;
END $$;
