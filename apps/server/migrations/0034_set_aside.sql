CREATE TABLE "set_aside" (
	"product_id" bigint PRIMARY KEY NOT NULL,
	"sight" boolean NOT NULL,
	"findings" boolean NOT NULL,
	"gaps" boolean NOT NULL,
	"until" date,
	"reason" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
ALTER TABLE "listing" ADD COLUMN "muted" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "set_aside" ADD CONSTRAINT "set_aside_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;