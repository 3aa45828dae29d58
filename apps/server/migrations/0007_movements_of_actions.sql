DROP INDEX "movement_batch";--> statement-breakpoint
ALTER TABLE "movement" ADD COLUMN "action_id" bigint;--> statement-breakpoint
UPDATE "movement" m SET action_id = b.action_id FROM "batch" b WHERE b.id = m.batch_id;--> statement-breakpoint
-- An edit or a booking stands in the history with the very moment of its transaction.
UPDATE "movement" m SET action_id = c.action_id FROM "change" c
  WHERE m.action_id IS NULL AND m.reason <> 'undo' AND c.subject_kind = 'product' AND c.subject_id = m.product_id AND c.at = m.at AND c.delta ? 'stock';--> statement-breakpoint
CREATE INDEX "movement_action" ON "movement" USING btree ("action_id");
