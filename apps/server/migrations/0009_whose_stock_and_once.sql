CREATE TABLE "serves" (
	"warehouse_id" bigint NOT NULL,
	"place_id" bigint NOT NULL,
	"serves" boolean NOT NULL,
	CONSTRAINT "serves_warehouse_id_place_id_pk" PRIMARY KEY("warehouse_id","place_id")
);
--> statement-breakpoint
CREATE TABLE "once_key" (
	"user_id" bigint NOT NULL,
	"key" text NOT NULL,
	"request" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"status" integer,
	"answer" jsonb,
	CONSTRAINT "once_key_user_id_key_pk" PRIMARY KEY("user_id","key")
);
--> statement-breakpoint
CREATE TABLE "batch_head" (
	"batch_id" bigint PRIMARY KEY NOT NULL,
	"rows" json NOT NULL
);
--> statement-breakpoint
ALTER TABLE "movement" ADD COLUMN "reverses" bigint;--> statement-breakpoint
ALTER TABLE "movement" ADD COLUMN "joined_to" bigint;--> statement-breakpoint
ALTER TABLE "warehouse" ADD COLUMN "kind" text DEFAULT 'own' NOT NULL;--> statement-breakpoint
ALTER TABLE "warehouse" ADD COLUMN "supplier_id" bigint;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "used_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "tries" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "serves" ADD CONSTRAINT "serves_warehouse_id_warehouse_id_fk" FOREIGN KEY ("warehouse_id") REFERENCES "public"."warehouse"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "batch_head" ADD CONSTRAINT "batch_head_batch_id_batch_id_fk" FOREIGN KEY ("batch_id") REFERENCES "public"."batch"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "once_key_at" ON "once_key" USING btree ("at");--> statement-breakpoint
CREATE INDEX "movement_reverses" ON "movement" USING btree ("reverses") WHERE reverses IS NOT NULL;--> statement-breakpoint
CREATE INDEX "movement_joined" ON "movement" USING btree ("product_id") WHERE joined_to IS NOT NULL;--> statement-breakpoint
CREATE UNIQUE INDEX "run_one_at_once" ON "run" USING btree ("feed_id") WHERE state = 'running';--> statement-breakpoint
ALTER TABLE "warehouse" ADD CONSTRAINT "warehouse_supplier_id_unique" UNIQUE("supplier_id");--> statement-breakpoint
INSERT INTO "warehouse" (key, name, kind, supplier_id) SELECT 'supplier-' || id, name, 'supplier', id FROM "supplier" WHERE kind = 'supplier';--> statement-breakpoint
-- What a supplier's lists said stood among our own pieces: it becomes a count in that supplier's warehouse.
CREATE TEMP TABLE told ON COMMIT DROP AS
  SELECT r.product_id, w.id AS warehouse_id, sum((c.content -> 'offer' ->> 'stock')::int)::int AS figure,
    bool_or(EXISTS (SELECT 1 FROM "record" o JOIN "supplier" s ON s.id = o.supplier_id AND s.kind = 'own' WHERE o.product_id = r.product_id AND o.content_id IS NOT NULL)) AS is_ours
  FROM "record" r JOIN "record_content" c ON c.id = r.content_id JOIN "warehouse" w ON w.supplier_id = r.supplier_id
  WHERE r.product_id IS NOT NULL AND c.content -> 'offer' ->> 'stock' IS NOT NULL GROUP BY 1, 2;--> statement-breakpoint
INSERT INTO "movement" (product_id, warehouse_id, delta, reason) SELECT product_id, warehouse_id, figure, 'count' FROM told WHERE figure <> 0;--> statement-breakpoint
INSERT INTO "stock_level" (product_id, warehouse_id, on_hand) SELECT product_id, warehouse_id, figure FROM told;--> statement-breakpoint
-- Goods that only suppliers list were never counted by us.
CREATE TEMP TABLE theirs ON COMMIT DROP AS
  SELECT s.product_id, s.warehouse_id, s.on_hand FROM "stock_level" s JOIN "warehouse" w ON w.id = s.warehouse_id AND w.kind = 'own'
  WHERE s.product_id IN (SELECT product_id FROM told GROUP BY 1 HAVING NOT bool_or(is_ours));--> statement-breakpoint
INSERT INTO "movement" (product_id, warehouse_id, delta, reason) SELECT product_id, warehouse_id, -on_hand, 'correction' FROM theirs WHERE on_hand <> 0;--> statement-breakpoint
UPDATE "stock_level" s SET on_hand = 0 FROM theirs t WHERE s.product_id = t.product_id AND s.warehouse_id = t.warehouse_id;--> statement-breakpoint
UPDATE "product" SET stock = 0 WHERE id IN (SELECT product_id FROM theirs);--> statement-breakpoint
UPDATE "product" f SET stock = s.stock FROM (SELECT family_id, sum(stock) AS stock FROM "product" WHERE family_id IS NOT NULL AND merged_into IS NULL GROUP BY 1) s
  WHERE s.family_id = f.id AND f.stock <> s.stock;--> statement-breakpoint
INSERT INTO "dirty" (place_id, unit_id) SELECT p.id, u.unit_id FROM "place" p, "product" u WHERE u.id IN (SELECT product_id FROM theirs) ON CONFLICT DO NOTHING;
