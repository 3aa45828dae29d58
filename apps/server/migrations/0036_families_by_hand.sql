CREATE TABLE "placement" (
	"product_id" bigint PRIMARY KEY NOT NULL,
	"family_key_id" bigint
);
--> statement-breakpoint
ALTER TABLE "family_key" ALTER COLUMN "supplier_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "family_key" ADD COLUMN "parted" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "placement" ADD CONSTRAINT "placement_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "placement" ADD CONSTRAINT "placement_family_key_id_family_key_id_fk" FOREIGN KEY ("family_key_id") REFERENCES "public"."family_key"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "placement_family_key" ON "placement" USING btree ("family_key_id");