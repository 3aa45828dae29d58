CREATE TABLE "changed_goods" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "changed_goods_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"xid" "xid8" DEFAULT pg_current_xact_id() NOT NULL,
	"products" bigint[],
	"at" timestamp with time zone DEFAULT clock_timestamp() NOT NULL
);
--> statement-breakpoint
CREATE INDEX "changed_goods_xid" ON "changed_goods" USING btree ("xid");
--> statement-breakpoint
CREATE FUNCTION note_changed_goods() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
  INSERT INTO changed_goods (products)
    SELECT CASE WHEN count(*) <= 10000 THEN array_agg(id) END FROM changed HAVING count(*) > 0;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION note_all_goods() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
  INSERT INTO changed_goods DEFAULT VALUES;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER inserted AFTER INSERT ON product REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION note_changed_goods();
--> statement-breakpoint
CREATE TRIGGER updated AFTER UPDATE ON product REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION note_changed_goods();
--> statement-breakpoint
CREATE TRIGGER deleted AFTER DELETE ON product REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION note_changed_goods();
--> statement-breakpoint
CREATE TRIGGER emptied AFTER TRUNCATE ON product FOR EACH STATEMENT EXECUTE FUNCTION note_all_goods();
