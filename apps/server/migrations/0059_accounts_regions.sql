ALTER TABLE "account" ADD COLUMN "region" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "rulebook" ADD COLUMN "take_on" text;--> statement-breakpoint
ALTER TABLE "rulebook" ADD COLUMN "take_for" bigint;--> statement-breakpoint
ALTER TABLE "account" ADD CONSTRAINT "account_channel_name" UNIQUE("channel_id","name");