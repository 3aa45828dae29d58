CREATE TABLE "invite" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "invite_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"email" text NOT NULL,
	"role" text NOT NULL,
	"token_hash" text NOT NULL,
	"expires" timestamp with time zone NOT NULL,
	"made_by" bigint NOT NULL,
	CONSTRAINT "invite_email_unique" UNIQUE("email"),
	CONSTRAINT "invite_token_hash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
CREATE TABLE "owner_code" (
	"id" integer PRIMARY KEY DEFAULT 1 NOT NULL,
	"hash" text NOT NULL,
	"wrong" integer DEFAULT 0 NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "owner_code_is_one" CHECK ("owner_code"."id" = 1)
);
--> statement-breakpoint
ALTER TABLE "attribute" ADD COLUMN "put_away" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "warehouse" ADD COLUMN "put_away" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "market" text;--> statement-breakpoint
UPDATE "company" SET "market" = split_part("languages"[1], '-', 2);--> statement-breakpoint
ALTER TABLE "company" ALTER COLUMN "market" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "prices_with_vat" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "user_account" ADD COLUMN "gone" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "supplier" ADD COLUMN "currency" text;--> statement-breakpoint
ALTER TABLE "supplier" ADD COLUMN "put_away" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "invite" ADD CONSTRAINT "invite_made_by_user_account_id_fk" FOREIGN KEY ("made_by") REFERENCES "public"."user_account"("id") ON DELETE no action ON UPDATE no action;