CREATE TABLE "preset" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "preset_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"channel_id" bigint NOT NULL,
	"name" text NOT NULL,
	"condition" jsonb,
	"position" integer NOT NULL,
	"stands" boolean DEFAULT true NOT NULL
);
--> statement-breakpoint
CREATE TABLE "preset_hand" (
	"preset_id" bigint NOT NULL,
	"product_id" bigint NOT NULL,
	"is_in" boolean NOT NULL,
	CONSTRAINT "preset_hand_preset_id_product_id_pk" PRIMARY KEY("preset_id","product_id")
);
--> statement-breakpoint
ALTER TABLE "fill" DROP CONSTRAINT "fill_slot";--> statement-breakpoint
ALTER TABLE "fill" ADD COLUMN "preset_id" bigint;--> statement-breakpoint
ALTER TABLE "preset" ADD CONSTRAINT "preset_channel_id_channel_id_fk" FOREIGN KEY ("channel_id") REFERENCES "public"."channel"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "preset_hand" ADD CONSTRAINT "preset_hand_preset_id_preset_id_fk" FOREIGN KEY ("preset_id") REFERENCES "public"."preset"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "preset_channel" ON "preset" USING btree ("channel_id");--> statement-breakpoint
CREATE INDEX "preset_hand_product" ON "preset_hand" USING btree ("product_id");--> statement-breakpoint
ALTER TABLE "fill" ADD CONSTRAINT "fill_preset_id_preset_id_fk" FOREIGN KEY ("preset_id") REFERENCES "public"."preset"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "fill" ADD CONSTRAINT "fill_slot" UNIQUE NULLS NOT DISTINCT("channel_id","preset_id","market","category","attribute");