ALTER TABLE "join_proposal" ADD COLUMN "against" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "supplier" ADD COLUMN "uses_our_numbers" boolean DEFAULT false NOT NULL;