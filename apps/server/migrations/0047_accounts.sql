CREATE TABLE "account_join" (
	"state_hash" text PRIMARY KEY NOT NULL,
	"account_id" bigint NOT NULL,
	"user_id" bigint NOT NULL,
	"verifier" text NOT NULL,
	"expires" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "account_term" (
	"account_id" bigint NOT NULL,
	"kind" text NOT NULL,
	"key" text NOT NULL,
	"label" text NOT NULL,
	"gone_at" timestamp with time zone,
	CONSTRAINT "account_term_account_id_kind_key_pk" PRIMARY KEY("account_id","kind","key")
);
--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "credentials" text;--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "standing" jsonb;--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "asked_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "fault" text;--> statement-breakpoint
ALTER TABLE "account_join" ADD CONSTRAINT "account_join_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "account_term" ADD CONSTRAINT "account_term_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE cascade ON UPDATE no action;