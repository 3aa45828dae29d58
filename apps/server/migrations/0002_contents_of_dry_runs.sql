ALTER TABLE "record_content" DROP CONSTRAINT "record_content_hash";--> statement-breakpoint
ALTER TABLE "batch_row" ADD COLUMN "content_id" bigint;--> statement-breakpoint
UPDATE batch_row b SET content_id = v.content_id FROM record_version v
WHERE v.batch_id = b.batch_id AND v.row = b.row AND b.outcome IN ('created', 'changed');--> statement-breakpoint
-- What was tried and not applied is tried again: its file is still there.
UPDATE batch SET state = 'read', counts = NULL, effect = NULL WHERE state IN ('trying', 'tried') AND kind <> 'round-trip';
