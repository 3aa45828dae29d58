CREATE TABLE "exemption" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "exemption_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"account_id" bigint NOT NULL,
	"attribute" text NOT NULL,
	"condition" jsonb NOT NULL,
	"whom" text NOT NULL,
	"reason" text NOT NULL,
	"state" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "exemption_whom" UNIQUE("account_id","attribute","whom")
);
--> statement-breakpoint
ALTER TABLE "exemption" ADD CONSTRAINT "exemption_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE cascade ON UPDATE no action;