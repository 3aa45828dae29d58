ALTER TABLE "product" DROP CONSTRAINT "product_family_id_product_id_fk";
--> statement-breakpoint
ALTER TABLE "record" DROP CONSTRAINT "record_supplier_id_supplier_id_fk";
--> statement-breakpoint
DROP INDEX "product_search";--> statement-breakpoint
ALTER TABLE "product" ALTER COLUMN "options" SET DATA TYPE json;--> statement-breakpoint
ALTER TABLE "product" ALTER COLUMN "options" SET DEFAULT '[]'::json;--> statement-breakpoint
ALTER TABLE "product" ALTER COLUMN "facts" SET DATA TYPE json;--> statement-breakpoint
ALTER TABLE "product" ALTER COLUMN "facts" SET DEFAULT '{}'::json;--> statement-breakpoint
ALTER TABLE "product_text" ALTER COLUMN "texts" SET DATA TYPE json;--> statement-breakpoint
ALTER TABLE "record_content" ALTER COLUMN "content" SET DATA TYPE json;--> statement-breakpoint
ALTER TABLE "record_content" ALTER COLUMN "keys" SET DATA TYPE json;--> statement-breakpoint
ALTER TABLE "record_content" ALTER COLUMN "cells" SET DATA TYPE json;--> statement-breakpoint
CREATE INDEX "product_search" ON "product" USING gin ("search" gin_trgm_ops) WITH (gin_pending_list_limit=16384);--> statement-breakpoint
ALTER TABLE "record_content" DROP COLUMN "hash";