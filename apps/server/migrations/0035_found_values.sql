CREATE TABLE "found_value" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "found_value_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"product_id" bigint NOT NULL,
	"attribute_id" bigint NOT NULL,
	"value" text NOT NULL,
	"held" text,
	"score" real NOT NULL,
	"language" text NOT NULL,
	"part" text NOT NULL,
	"before" text NOT NULL,
	"words" text NOT NULL,
	"after" text NOT NULL,
	"declined" boolean DEFAULT false NOT NULL,
	"found_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "found_value_product" UNIQUE("product_id","attribute_id")
);
--> statement-breakpoint
ALTER TABLE "found_value" ADD CONSTRAINT "found_value_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "found_value" ADD CONSTRAINT "found_value_attribute_id_attribute_id_fk" FOREIGN KEY ("attribute_id") REFERENCES "public"."attribute"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "found_value_open" ON "found_value" USING btree ("attribute_id","score");