ALTER TABLE "batch_head" ADD COLUMN "preview" json DEFAULT '[]' NOT NULL;--> statement-breakpoint
CREATE INDEX "batch_row_left_out" ON "batch_row" USING btree ("batch_id") WHERE left_out;