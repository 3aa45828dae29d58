CREATE TABLE "list_value" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "list_value_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"attribute_id" bigint NOT NULL,
	"key" text NOT NULL,
	"parent_id" bigint,
	"names" json NOT NULL,
	"spellings" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"position" integer NOT NULL,
	"hidden" boolean DEFAULT false NOT NULL,
	CONSTRAINT "list_value_key" UNIQUE("attribute_id","key")
);
--> statement-breakpoint
ALTER TABLE "attribute" ADD COLUMN "role" text;--> statement-breakpoint
ALTER TABLE "attribute" ADD COLUMN "aliases" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "list_value" ADD CONSTRAINT "list_value_attribute_id_attribute_id_fk" FOREIGN KEY ("attribute_id") REFERENCES "public"."attribute"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "list_value" ADD CONSTRAINT "list_value_parent_id_list_value_id_fk" FOREIGN KEY ("parent_id") REFERENCES "public"."list_value"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
UPDATE "attribute" SET "role" = CASE "key" WHEN 'morePictures' THEN 'pictures' ELSE "key" END
WHERE "key" IN ('sku', 'title', 'description', 'brand', 'category', 'gtin', 'mpn', 'state', 'page', 'pictures', 'morePictures', 'colour', 'size', 'material', 'weight', 'purchasePrice', 'recommendedPrice');--> statement-breakpoint
INSERT INTO "list_value" ("attribute_id", "key", "names", "position")
SELECT a."id", c."value", json_build_object((SELECT "languages"[1] FROM "company"), c."value"), c."n"
FROM "attribute" a, jsonb_array_elements_text(a."choices") WITH ORDINALITY AS c("value", "n") WHERE a."choices" IS NOT NULL;--> statement-breakpoint
INSERT INTO "list_value" ("attribute_id", "key", "names", "position")
SELECT a."id", c."path", json_build_object((SELECT "languages"[1] FROM "company"), c."name"), c."position"
FROM "category" c JOIN "attribute" a ON a."role" = 'category';--> statement-breakpoint
UPDATE "list_value" v SET "parent_id" = p."id" FROM "list_value" p, "attribute" a
WHERE a."id" = v."attribute_id" AND a."role" = 'category' AND p."attribute_id" = v."attribute_id" AND p."key" = regexp_replace(v."key", '/[^/]*$', '') AND p."id" <> v."id";
