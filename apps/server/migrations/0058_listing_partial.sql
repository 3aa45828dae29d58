DROP INDEX "listing_cause_set";--> statement-breakpoint
DROP INDEX "listing_next_change";--> statement-breakpoint
CREATE INDEX "listing_cause_set" ON "listing" USING btree ("cause_set_id") WHERE "listing"."cause_set_id" is not null;--> statement-breakpoint
CREATE INDEX "listing_next_change" ON "listing" USING btree ("next_change_at") WHERE "listing"."next_change_at" is not null;