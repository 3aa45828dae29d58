CREATE TABLE "known_word" (
	"language" text NOT NULL,
	"word" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "known_word_language_word_pk" PRIMARY KEY("language","word")
);
--> statement-breakpoint
CREATE TABLE "text_fault" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "text_fault_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"product_id" bigint NOT NULL,
	"attribute_id" bigint NOT NULL,
	"language" text NOT NULL,
	"fault" text NOT NULL,
	"word" text DEFAULT '' NOT NULL,
	"before" text DEFAULT '' NOT NULL,
	"words" text NOT NULL,
	"after" text DEFAULT '' NOT NULL,
	"details" jsonb NOT NULL,
	"hash" text NOT NULL,
	"left" boolean DEFAULT false NOT NULL,
	CONSTRAINT "text_fault_place" UNIQUE("product_id","attribute_id","language","fault","word")
);
--> statement-breakpoint
ALTER TABLE "text_fault" ADD CONSTRAINT "text_fault_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "text_fault" ADD CONSTRAINT "text_fault_attribute_id_attribute_id_fk" FOREIGN KEY ("attribute_id") REFERENCES "public"."attribute"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "text_fault_open" ON "text_fault" USING btree ("fault","id");--> statement-breakpoint
CREATE INDEX "text_fault_word" ON "text_fault" USING btree ("language","word");