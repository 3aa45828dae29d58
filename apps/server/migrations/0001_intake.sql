CREATE TABLE "batch_fix" (
	"batch_id" bigint NOT NULL,
	"row" integer NOT NULL,
	"cells" jsonb NOT NULL,
	CONSTRAINT "batch_fix_batch_id_row_pk" PRIMARY KEY("batch_id","row")
);
--> statement-breakpoint
CREATE TABLE "join_decision" (
	"a" bigint NOT NULL,
	"b" bigint NOT NULL,
	"verdict" text NOT NULL,
	"action_id" bigint NOT NULL,
	CONSTRAINT "join_decision_a_b_pk" PRIMARY KEY("a","b")
);
--> statement-breakpoint
CREATE TABLE "match_pair" (
	"a" bigint NOT NULL,
	"b" bigint NOT NULL,
	"score" integer NOT NULL,
	"evidence" jsonb NOT NULL,
	CONSTRAINT "match_pair_a_b_pk" PRIMARY KEY("a","b")
);
--> statement-breakpoint
CREATE TABLE "pull" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "pull_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"supplier_id" bigint NOT NULL,
	"name" text NOT NULL,
	"address" text NOT NULL,
	"schedule" text,
	"next_at" timestamp with time zone,
	"progress" jsonb,
	"last_at" timestamp with time zone,
	"last_batch_id" bigint,
	"last_error" text,
	"actor" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "fact" DROP CONSTRAINT "fact_attribute_id_attribute_id_fk";
--> statement-breakpoint
ALTER TABLE "fact" DROP CONSTRAINT "fact_product_id_product_id_fk";
--> statement-breakpoint
ALTER TABLE "batch_row" DROP CONSTRAINT "batch_row_batch_id_batch_id_fk";
--> statement-breakpoint
ALTER TABLE "record_content" DROP CONSTRAINT "record_content_record_id_record_id_fk";
--> statement-breakpoint
ALTER TABLE "record_key" DROP CONSTRAINT "record_key_record_id_record_id_fk";
--> statement-breakpoint
ALTER TABLE "record_version" DROP CONSTRAINT "record_version_record_id_record_id_fk";
--> statement-breakpoint
ALTER TABLE "record_version" DROP CONSTRAINT "record_version_batch_id_batch_id_fk";
--> statement-breakpoint
ALTER TABLE "record_version" DROP CONSTRAINT "record_version_content_id_record_content_id_fk";
--> statement-breakpoint
DROP INDEX "fact_num";--> statement-breakpoint
DROP INDEX "fact_key";--> statement-breakpoint
ALTER TABLE "batch_row" ALTER COLUMN "cells" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "trust_policy" ADD COLUMN "ranking" bigint[];--> statement-breakpoint
ALTER TABLE "batch" ADD COLUMN "scope" text DEFAULT 'whole' NOT NULL;--> statement-breakpoint
ALTER TABLE "batch" ADD COLUMN "kind" text DEFAULT 'file' NOT NULL;--> statement-breakpoint
ALTER TABLE "batch" ADD COLUMN "makes_new" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "batch" ADD COLUMN "effect" jsonb;--> statement-breakpoint
ALTER TABLE "batch" ADD COLUMN "left_behind" jsonb;--> statement-breakpoint
ALTER TABLE "batch_row" ADD COLUMN "place" text;--> statement-breakpoint
ALTER TABLE "batch_row" ADD COLUMN "left_out" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "batch_row" ADD COLUMN "product_id" bigint;--> statement-breakpoint
ALTER TABLE "batch_row" ADD COLUMN "edits" jsonb;--> statement-breakpoint
ALTER TABLE "batch_row" ADD COLUMN "record_id" bigint;--> statement-breakpoint
ALTER TABLE "batch_row" ADD COLUMN "print" text;--> statement-breakpoint
ALTER TABLE "record" ADD COLUMN "written" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "record" ADD COLUMN "dropped" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "record_content" ADD COLUMN "print" text;--> statement-breakpoint
ALTER TABLE "batch_fix" ADD CONSTRAINT "batch_fix_batch_id_batch_id_fk" FOREIGN KEY ("batch_id") REFERENCES "public"."batch"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "join_decision" ADD CONSTRAINT "join_decision_a_record_id_fk" FOREIGN KEY ("a") REFERENCES "public"."record"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "join_decision" ADD CONSTRAINT "join_decision_b_record_id_fk" FOREIGN KEY ("b") REFERENCES "public"."record"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "match_pair" ADD CONSTRAINT "match_pair_a_product_id_fk" FOREIGN KEY ("a") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "match_pair" ADD CONSTRAINT "match_pair_b_product_id_fk" FOREIGN KEY ("b") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pull" ADD CONSTRAINT "pull_supplier_id_supplier_id_fk" FOREIGN KEY ("supplier_id") REFERENCES "public"."supplier"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "join_decision_b" ON "join_decision" USING btree ("b");--> statement-breakpoint
CREATE INDEX "match_pair_b" ON "match_pair" USING btree ("b");--> statement-breakpoint
CREATE INDEX "match_pair_score" ON "match_pair" USING btree ("score");--> statement-breakpoint
CREATE INDEX "product_family" ON "product" USING btree ("family_id");--> statement-breakpoint
CREATE INDEX "product_merged" ON "product" USING btree ("merged_into") WHERE merged_into IS NOT NULL;--> statement-breakpoint
CREATE INDEX "fact_num" ON "fact" USING btree ("attribute_id","num","product_id") WHERE num IS NOT NULL;--> statement-breakpoint
CREATE INDEX "fact_key" ON "fact" USING btree ("attribute_id","key","product_id") WHERE key IS NOT NULL;--> statement-breakpoint
UPDATE "record" SET "written" = "key";--> statement-breakpoint
UPDATE "batch" SET "reading" = "reading" || '{"format":"delimited"}'::jsonb WHERE NOT "reading" ? 'format';--> statement-breakpoint
UPDATE "batch" SET "detected" = jsonb_build_object('reading', "reading", 'notes', '[]'::jsonb, 'itemPaths', '[]'::jsonb, 'variantPaths', '[]'::jsonb,
  'why', (SELECT jsonb_object_agg(key, value ->> 'why') FROM jsonb_each("detected"))) WHERE NOT "detected" ? 'reading';--> statement-breakpoint
INSERT INTO "attribute" ("key", "label", "type", "many", "per_language", "level", "group", "position")
SELECT 'droppedBy', 'No longer listed by', 'text', true, false, 'variant', 'Sources', 900 WHERE EXISTS (SELECT 1 FROM "attribute") ON CONFLICT DO NOTHING;
