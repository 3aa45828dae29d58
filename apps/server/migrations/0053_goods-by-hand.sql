-- Goods that are gone left their rows behind.
DELETE FROM "hand_picked" h WHERE NOT EXISTS (SELECT 1 FROM "product" p WHERE p.id = h.product_id);--> statement-breakpoint
DELETE FROM "preset_hand" h WHERE NOT EXISTS (SELECT 1 FROM "product" p WHERE p.id = h.product_id);--> statement-breakpoint
ALTER TABLE "hand_picked" ADD CONSTRAINT "hand_picked_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "preset_hand" ADD CONSTRAINT "preset_hand_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;