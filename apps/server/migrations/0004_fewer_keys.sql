ALTER TABLE "movement" DROP CONSTRAINT "movement_product_id_product_id_fk";
--> statement-breakpoint
ALTER TABLE "movement" DROP CONSTRAINT "movement_warehouse_id_warehouse_id_fk";
--> statement-breakpoint
ALTER TABLE "price" DROP CONSTRAINT "price_product_id_product_id_fk";
--> statement-breakpoint
ALTER TABLE "product_text" DROP CONSTRAINT "product_text_product_id_product_id_fk";
--> statement-breakpoint
ALTER TABLE "stock_level" DROP CONSTRAINT "stock_level_product_id_product_id_fk";
--> statement-breakpoint
ALTER TABLE "stock_level" DROP CONSTRAINT "stock_level_warehouse_id_warehouse_id_fk";
--> statement-breakpoint
ALTER TABLE "record" DROP CONSTRAINT "record_product_id_product_id_fk";
--> statement-breakpoint
DROP INDEX "fact_product";--> statement-breakpoint
-- Prices and stock change often and stand in no index: with room on the page such an update writes no index at all.
ALTER TABLE product SET (fillfactor = 80);
