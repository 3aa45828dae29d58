ALTER TABLE "product" ADD COLUMN "removed_by" bigint;--> statement-breakpoint
ALTER TABLE "product" ADD COLUMN "stands" boolean GENERATED ALWAYS AS (merged_into IS NULL AND removed_by IS NULL) STORED NOT NULL;--> statement-breakpoint
ALTER TABLE "record" ADD COLUMN "silent_after" bigint;