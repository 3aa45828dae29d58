ALTER TABLE "batch_row" DROP COLUMN "content";--> statement-breakpoint
ALTER TABLE "batch_row" DROP COLUMN "hash";--> statement-breakpoint
ALTER TABLE "batch_row" DROP COLUMN "keys";--> statement-breakpoint
ALTER TABLE "batch_row" DROP COLUMN "print";