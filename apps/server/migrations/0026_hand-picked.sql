CREATE TABLE "hand_picked" (
	"place_id" bigint NOT NULL,
	"product_id" bigint NOT NULL,
	"is_in" boolean NOT NULL,
	CONSTRAINT "hand_picked_place_id_product_id_pk" PRIMARY KEY("place_id","product_id")
);
--> statement-breakpoint
ALTER TABLE "hand_picked" ADD CONSTRAINT "hand_picked_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "hand_picked_product" ON "hand_picked" USING btree ("product_id");