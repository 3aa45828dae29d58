CREATE TABLE "family_plan" (
	"family_id" bigint PRIMARY KEY NOT NULL,
	"plan" json NOT NULL
);
--> statement-breakpoint
CREATE TABLE "option_edit" (
	"product_id" bigint NOT NULL,
	"axis" text NOT NULL,
	"value" text,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"actor" bigint,
	CONSTRAINT "option_edit_product_id_axis_pk" PRIMARY KEY("product_id","axis")
);
--> statement-breakpoint
ALTER TABLE "product" ADD COLUMN "hidden" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "product" ADD COLUMN "surcharge" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "family_plan" ADD CONSTRAINT "family_plan_family_id_product_id_fk" FOREIGN KEY ("family_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "option_edit" ADD CONSTRAINT "option_edit_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "option_edit" ADD CONSTRAINT "option_edit_actor_user_account_id_fk" FOREIGN KEY ("actor") REFERENCES "public"."user_account"("id") ON DELETE no action ON UPDATE no action;