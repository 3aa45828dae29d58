DROP TABLE "category" CASCADE;--> statement-breakpoint
ALTER TABLE "attribute" DROP COLUMN "choices";