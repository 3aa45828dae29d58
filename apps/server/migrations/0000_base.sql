CREATE EXTENSION IF NOT EXISTS pg_trgm;--> statement-breakpoint
CREATE TABLE "attribute" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "attribute_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"key" text NOT NULL,
	"label" text NOT NULL,
	"type" text NOT NULL,
	"many" boolean NOT NULL,
	"per_language" boolean NOT NULL,
	"level" text NOT NULL,
	"dimension" text,
	"choices" jsonb,
	"group" text NOT NULL,
	"position" integer NOT NULL,
	CONSTRAINT "attribute_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "category" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "category_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"path" text NOT NULL,
	"name" text NOT NULL,
	"position" integer NOT NULL,
	CONSTRAINT "category_path_unique" UNIQUE("path")
);
--> statement-breakpoint
CREATE TABLE "claim_edit" (
	"product_id" bigint NOT NULL,
	"attribute_id" bigint NOT NULL,
	"lang" text DEFAULT '' NOT NULL,
	"value" jsonb,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"actor" bigint,
	CONSTRAINT "claim_edit_product_id_attribute_id_lang_pk" PRIMARY KEY("product_id","attribute_id","lang")
);
--> statement-breakpoint
CREATE TABLE "fact" (
	"attribute_id" bigint NOT NULL,
	"lang" text DEFAULT '' NOT NULL,
	"num" double precision,
	"key" text COLLATE "C",
	"product_id" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "media" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "media_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"name" text NOT NULL,
	"format" text NOT NULL,
	"bytes" integer NOT NULL,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	CONSTRAINT "media_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "movement" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "movement_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"product_id" bigint NOT NULL,
	"warehouse_id" bigint NOT NULL,
	"delta" integer NOT NULL,
	"reason" text NOT NULL,
	"batch_id" bigint,
	"actor" bigint,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "price" (
	"product_id" bigint NOT NULL,
	"currency" text NOT NULL,
	"kind" text NOT NULL,
	"amount" numeric(14, 4) NOT NULL,
	"valid_from" date,
	"valid_to" date,
	CONSTRAINT "price_slot" UNIQUE("product_id","currency","kind")
);
--> statement-breakpoint
CREATE TABLE "product" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "product_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"kind" text NOT NULL,
	"family_id" bigint,
	"unit_id" bigint NOT NULL,
	"sku" text,
	"title" text,
	"brand" text,
	"category" text,
	"gtin" text,
	"state" text,
	"picture" text,
	"price" numeric(14, 4),
	"stock" integer DEFAULT 0 NOT NULL,
	"options" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"facts" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"offers" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"search" text DEFAULT '' NOT NULL,
	"complete" integer DEFAULT 0 NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"merged_into" bigint,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "product_text" (
	"product_id" bigint PRIMARY KEY NOT NULL,
	"texts" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "stock_level" (
	"product_id" bigint NOT NULL,
	"warehouse_id" bigint NOT NULL,
	"on_hand" integer NOT NULL,
	"reserved" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "stock_level_product_id_warehouse_id_pk" PRIMARY KEY("product_id","warehouse_id")
);
--> statement-breakpoint
CREATE TABLE "trust_policy" (
	"attribute_id" bigint PRIMARY KEY NOT NULL,
	"policy" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "warehouse" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "warehouse_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"key" text NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "warehouse_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "account" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "account_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"channel_id" bigint NOT NULL,
	"name" text NOT NULL,
	"address" text NOT NULL,
	"state" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "category_map" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "category_map_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"channel_id" bigint NOT NULL,
	"market" text DEFAULT '' NOT NULL,
	"category" text NOT NULL,
	"target" text NOT NULL,
	CONSTRAINT "category_map_slot" UNIQUE("channel_id","market","category")
);
--> statement-breakpoint
CREATE TABLE "channel" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "channel_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"key" text NOT NULL,
	"name" text NOT NULL,
	"rulebook_id" bigint,
	CONSTRAINT "channel_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "fill" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "fill_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"channel_id" bigint NOT NULL,
	"market" text DEFAULT '' NOT NULL,
	"category" text DEFAULT '' NOT NULL,
	"attribute" text NOT NULL,
	"fill" jsonb NOT NULL,
	CONSTRAINT "fill_slot" UNIQUE("channel_id","market","category","attribute")
);
--> statement-breakpoint
CREATE TABLE "place" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "place_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"account_id" bigint NOT NULL,
	"market" text NOT NULL,
	"name" text NOT NULL,
	"country" text NOT NULL,
	"language" text NOT NULL,
	"currency" text NOT NULL,
	"assortment" jsonb NOT NULL,
	"setup_version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "place_account_market" UNIQUE("account_id","market")
);
--> statement-breakpoint
CREATE TABLE "rulebook" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "rulebook_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"channel_id" bigint NOT NULL,
	"version" text NOT NULL,
	"valid_from" text NOT NULL,
	"body" jsonb NOT NULL,
	"loaded_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "rulebook_version" UNIQUE("channel_id","version")
);
--> statement-breakpoint
CREATE TABLE "feed" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "feed_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"place_id" bigint NOT NULL,
	"name" text NOT NULL,
	"format" text NOT NULL,
	"secret" text NOT NULL,
	"guard" jsonb NOT NULL,
	"up_run_id" bigint,
	CONSTRAINT "feed_secret_unique" UNIQUE("secret")
);
--> statement-breakpoint
CREATE TABLE "feed_fetch" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"feed_id" bigint NOT NULL,
	"run_id" bigint,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"agent" text NOT NULL,
	"status" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "report" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "report_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"run_id" bigint NOT NULL,
	"external_id" text NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL,
	"counts" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "report_item" (
	"report_id" bigint NOT NULL,
	"item_key" text NOT NULL,
	"listing_id" bigint,
	"outcome" text NOT NULL,
	"code" text,
	"message" text,
	CONSTRAINT "report_item_report_id_item_key_pk" PRIMARY KEY("report_id","item_key")
);
--> statement-breakpoint
CREATE TABLE "run" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "run_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"feed_id" bigint NOT NULL,
	"state" text NOT NULL,
	"held_why" text,
	"error" text,
	"counts" jsonb,
	"difference" jsonb,
	"path" text,
	"bytes" bigint,
	"gzip_bytes" bigint,
	"etag" text,
	"job_id" bigint,
	"rulebook_version" text,
	"started_at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "run_item" (
	"run_id" bigint NOT NULL,
	"listing_id" bigint NOT NULL,
	"item_key" text NOT NULL,
	"row_hash" text NOT NULL,
	"offset" bigint NOT NULL,
	"length" integer NOT NULL,
	CONSTRAINT "run_item_run_id_listing_id_pk" PRIMARY KEY("run_id","listing_id")
);
--> statement-breakpoint
CREATE TABLE "run_left_out" (
	"run_id" bigint NOT NULL,
	"listing_id" bigint NOT NULL,
	"reason" text NOT NULL,
	"cause_set_id" bigint,
	"words" text,
	CONSTRAINT "run_left_out_run_id_listing_id_pk" PRIMARY KEY("run_id","listing_id")
);
--> statement-breakpoint
CREATE TABLE "action" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "action_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"actor" bigint,
	"kind" text NOT NULL,
	"words" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"undone_by" bigint
);
--> statement-breakpoint
CREATE TABLE "change" (
	"action_id" bigint NOT NULL,
	"subject_kind" text NOT NULL,
	"subject_id" bigint NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"delta" jsonb NOT NULL,
	CONSTRAINT "change_action_id_subject_kind_subject_id_at_pk" PRIMARY KEY("action_id","subject_kind","subject_id","at")
) PARTITION BY RANGE ("at");
--> statement-breakpoint
CREATE TABLE "session" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"user_id" bigint NOT NULL,
	"expires" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "user_account" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "user_account_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"email" text NOT NULL,
	"name" text NOT NULL,
	"role" text NOT NULL,
	"password_hash" text NOT NULL,
	"last_visit" timestamp with time zone,
	CONSTRAINT "user_account_email_unique" UNIQUE("email")
);
--> statement-breakpoint
CREATE TABLE "job" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "job_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"kind" text NOT NULL,
	"label" text NOT NULL,
	"input" jsonb NOT NULL,
	"checkpoint" jsonb,
	"state" text DEFAULT 'waiting' NOT NULL,
	"done" bigint DEFAULT 0 NOT NULL,
	"total" bigint DEFAULT 0 NOT NULL,
	"cancel_wish" timestamp with time zone,
	"error" text,
	"actor" bigint,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"started_at" timestamp with time zone,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "batch" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "batch_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"supplier_id" bigint NOT NULL,
	"file_name" text NOT NULL,
	"bytes" bigint NOT NULL,
	"sha256" text NOT NULL,
	"path" text NOT NULL,
	"detected" jsonb NOT NULL,
	"reading" jsonb NOT NULL,
	"columns" jsonb NOT NULL,
	"suggestions" jsonb NOT NULL,
	"map" jsonb NOT NULL,
	"state" text NOT NULL,
	"counts" jsonb,
	"error" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"applied_at" timestamp with time zone,
	"apply_ms" integer,
	"action_id" bigint
);
--> statement-breakpoint
CREATE TABLE "batch_row" (
	"batch_id" bigint NOT NULL,
	"row" integer NOT NULL,
	"outcome" text NOT NULL,
	"key" text,
	"record_key" text,
	"reasons" jsonb,
	"notes" jsonb,
	"cells" jsonb NOT NULL,
	"content" jsonb,
	"hash" text,
	"keys" jsonb,
	"before_id" bigint,
	CONSTRAINT "batch_row_batch_id_row_pk" PRIMARY KEY("batch_id","row")
);
--> statement-breakpoint
CREATE TABLE "column_map" (
	"supplier_id" bigint NOT NULL,
	"signature" text NOT NULL,
	"map" jsonb NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "column_map_supplier_id_signature_pk" PRIMARY KEY("supplier_id","signature")
);
--> statement-breakpoint
CREATE TABLE "family_key" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "family_key_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"supplier_id" bigint NOT NULL,
	"key" text NOT NULL,
	"product_id" bigint,
	CONSTRAINT "family_key_key" UNIQUE("supplier_id","key")
);
--> statement-breakpoint
CREATE TABLE "join_proposal" (
	"kind" text NOT NULL,
	"key" text NOT NULL,
	"records" jsonb NOT NULL,
	"reason" text NOT NULL,
	CONSTRAINT "join_proposal_kind_key_pk" PRIMARY KEY("kind","key")
);
--> statement-breakpoint
CREATE TABLE "record" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "record_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"supplier_id" bigint NOT NULL,
	"key" text NOT NULL,
	"content_id" bigint,
	"product_id" bigint,
	"family_key_id" bigint,
	"made_product_id" bigint
);
--> statement-breakpoint
CREATE TABLE "record_content" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "record_content_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"record_id" bigint NOT NULL,
	"hash" text NOT NULL,
	"content" jsonb NOT NULL,
	"keys" jsonb NOT NULL,
	"cells" jsonb NOT NULL,
	CONSTRAINT "record_content_hash" UNIQUE("record_id","hash")
);
--> statement-breakpoint
CREATE TABLE "record_key" (
	"kind" text NOT NULL,
	"key" text NOT NULL,
	"record_id" bigint NOT NULL,
	CONSTRAINT "record_key_kind_key_record_id_pk" PRIMARY KEY("kind","key","record_id")
);
--> statement-breakpoint
CREATE TABLE "record_version" (
	"record_id" bigint NOT NULL,
	"batch_id" bigint NOT NULL,
	"content_id" bigint NOT NULL,
	"row" integer NOT NULL,
	CONSTRAINT "record_version_record_id_batch_id_pk" PRIMARY KEY("record_id","batch_id")
);
--> statement-breakpoint
CREATE TABLE "supplier" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "supplier_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"key" text NOT NULL,
	"name" text NOT NULL,
	"rank" integer NOT NULL,
	"kind" text NOT NULL,
	"language" text DEFAULT 'en-GB' NOT NULL,
	CONSTRAINT "supplier_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "cause" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "cause_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"key" text NOT NULL,
	"kind" text NOT NULL,
	CONSTRAINT "cause_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "cause_set" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "cause_set_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"causes" bigint[] NOT NULL,
	CONSTRAINT "cause_set_causes_unique" UNIQUE("causes")
);
--> statement-breakpoint
CREATE TABLE "dirty" (
	"place_id" bigint NOT NULL,
	"unit_id" bigint NOT NULL,
	"since" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "dirty_place_id_unit_id_pk" PRIMARY KEY("place_id","unit_id")
);
--> statement-breakpoint
CREATE TABLE "listing" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "listing_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"place_id" bigint NOT NULL,
	"variant_id" bigint NOT NULL,
	"unit_id" bigint NOT NULL,
	"readiness" text NOT NULL,
	"channel_state" text DEFAULT 'none' NOT NULL,
	"category" text,
	"findings" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"collective" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"reported" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"not_for" text,
	"cause_set_id" bigint,
	"print" text NOT NULL,
	"item_key" text,
	"external_id" text,
	"next_change_at" date,
	"evaluated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "listing_place_variant" UNIQUE("place_id","variant_id")
);
--> statement-breakpoint
CREATE TABLE "listing_key" (
	"place_id" bigint NOT NULL,
	"check" text NOT NULL,
	"key" text NOT NULL,
	"listing_id" bigint NOT NULL,
	CONSTRAINT "listing_key_place_id_check_key_listing_id_pk" PRIMARY KEY("place_id","check","key","listing_id")
);
--> statement-breakpoint
CREATE TABLE "pin" (
	"listing_id" bigint NOT NULL,
	"attribute" text NOT NULL,
	"value" text NOT NULL,
	CONSTRAINT "pin_listing_id_attribute_pk" PRIMARY KEY("listing_id","attribute")
);
--> statement-breakpoint
CREATE TABLE "place_total" (
	"place_id" bigint NOT NULL,
	"readiness" text NOT NULL,
	"channel_state" text NOT NULL,
	"listings" integer NOT NULL,
	CONSTRAINT "place_total_place_id_readiness_channel_state_pk" PRIMARY KEY("place_id","readiness","channel_state")
);
--> statement-breakpoint
ALTER TABLE "claim_edit" ADD CONSTRAINT "claim_edit_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "claim_edit" ADD CONSTRAINT "claim_edit_attribute_id_attribute_id_fk" FOREIGN KEY ("attribute_id") REFERENCES "public"."attribute"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "claim_edit" ADD CONSTRAINT "claim_edit_actor_user_account_id_fk" FOREIGN KEY ("actor") REFERENCES "public"."user_account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "fact" ADD CONSTRAINT "fact_attribute_id_attribute_id_fk" FOREIGN KEY ("attribute_id") REFERENCES "public"."attribute"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "fact" ADD CONSTRAINT "fact_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement" ADD CONSTRAINT "movement_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement" ADD CONSTRAINT "movement_warehouse_id_warehouse_id_fk" FOREIGN KEY ("warehouse_id") REFERENCES "public"."warehouse"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement" ADD CONSTRAINT "movement_actor_user_account_id_fk" FOREIGN KEY ("actor") REFERENCES "public"."user_account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "price" ADD CONSTRAINT "price_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "product" ADD CONSTRAINT "product_family_id_product_id_fk" FOREIGN KEY ("family_id") REFERENCES "public"."product"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "product_text" ADD CONSTRAINT "product_text_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stock_level" ADD CONSTRAINT "stock_level_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stock_level" ADD CONSTRAINT "stock_level_warehouse_id_warehouse_id_fk" FOREIGN KEY ("warehouse_id") REFERENCES "public"."warehouse"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trust_policy" ADD CONSTRAINT "trust_policy_attribute_id_attribute_id_fk" FOREIGN KEY ("attribute_id") REFERENCES "public"."attribute"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "account" ADD CONSTRAINT "account_channel_id_channel_id_fk" FOREIGN KEY ("channel_id") REFERENCES "public"."channel"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "category_map" ADD CONSTRAINT "category_map_channel_id_channel_id_fk" FOREIGN KEY ("channel_id") REFERENCES "public"."channel"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "fill" ADD CONSTRAINT "fill_channel_id_channel_id_fk" FOREIGN KEY ("channel_id") REFERENCES "public"."channel"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "place" ADD CONSTRAINT "place_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rulebook" ADD CONSTRAINT "rulebook_channel_id_channel_id_fk" FOREIGN KEY ("channel_id") REFERENCES "public"."channel"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "feed" ADD CONSTRAINT "feed_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report" ADD CONSTRAINT "report_run_id_run_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."run"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report_item" ADD CONSTRAINT "report_item_report_id_report_id_fk" FOREIGN KEY ("report_id") REFERENCES "public"."report"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run" ADD CONSTRAINT "run_feed_id_feed_id_fk" FOREIGN KEY ("feed_id") REFERENCES "public"."feed"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_item" ADD CONSTRAINT "run_item_run_id_run_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."run"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_left_out" ADD CONSTRAINT "run_left_out_run_id_run_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."run"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "action" ADD CONSTRAINT "action_actor_user_account_id_fk" FOREIGN KEY ("actor") REFERENCES "public"."user_account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_user_id_user_account_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user_account"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_actor_user_account_id_fk" FOREIGN KEY ("actor") REFERENCES "public"."user_account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "batch" ADD CONSTRAINT "batch_supplier_id_supplier_id_fk" FOREIGN KEY ("supplier_id") REFERENCES "public"."supplier"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "batch" ADD CONSTRAINT "batch_action_id_action_id_fk" FOREIGN KEY ("action_id") REFERENCES "public"."action"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "batch_row" ADD CONSTRAINT "batch_row_batch_id_batch_id_fk" FOREIGN KEY ("batch_id") REFERENCES "public"."batch"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "column_map" ADD CONSTRAINT "column_map_supplier_id_supplier_id_fk" FOREIGN KEY ("supplier_id") REFERENCES "public"."supplier"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "family_key" ADD CONSTRAINT "family_key_supplier_id_supplier_id_fk" FOREIGN KEY ("supplier_id") REFERENCES "public"."supplier"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "family_key" ADD CONSTRAINT "family_key_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "record" ADD CONSTRAINT "record_supplier_id_supplier_id_fk" FOREIGN KEY ("supplier_id") REFERENCES "public"."supplier"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "record" ADD CONSTRAINT "record_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "record_content" ADD CONSTRAINT "record_content_record_id_record_id_fk" FOREIGN KEY ("record_id") REFERENCES "public"."record"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "record_key" ADD CONSTRAINT "record_key_record_id_record_id_fk" FOREIGN KEY ("record_id") REFERENCES "public"."record"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "record_version" ADD CONSTRAINT "record_version_record_id_record_id_fk" FOREIGN KEY ("record_id") REFERENCES "public"."record"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "record_version" ADD CONSTRAINT "record_version_batch_id_batch_id_fk" FOREIGN KEY ("batch_id") REFERENCES "public"."batch"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "record_version" ADD CONSTRAINT "record_version_content_id_record_content_id_fk" FOREIGN KEY ("content_id") REFERENCES "public"."record_content"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "listing" ADD CONSTRAINT "listing_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "listing" ADD CONSTRAINT "listing_variant_id_product_id_fk" FOREIGN KEY ("variant_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "listing" ADD CONSTRAINT "listing_cause_set_id_cause_set_id_fk" FOREIGN KEY ("cause_set_id") REFERENCES "public"."cause_set"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "listing_key" ADD CONSTRAINT "listing_key_listing_id_listing_id_fk" FOREIGN KEY ("listing_id") REFERENCES "public"."listing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pin" ADD CONSTRAINT "pin_listing_id_listing_id_fk" FOREIGN KEY ("listing_id") REFERENCES "public"."listing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "fact_num" ON "fact" USING btree ("attribute_id","num","product_id");--> statement-breakpoint
CREATE INDEX "fact_key" ON "fact" USING btree ("attribute_id","key","product_id");--> statement-breakpoint
CREATE INDEX "fact_product" ON "fact" USING btree ("product_id","attribute_id");--> statement-breakpoint
CREATE INDEX "movement_product" ON "movement" USING btree ("product_id","warehouse_id");--> statement-breakpoint
CREATE INDEX "movement_batch" ON "movement" USING btree ("batch_id");--> statement-breakpoint
CREATE INDEX "product_unit" ON "product" USING btree ("unit_id","id");--> statement-breakpoint
CREATE INDEX "product_sku" ON "product" USING btree ("sku");--> statement-breakpoint
CREATE INDEX "product_gtin" ON "product" USING btree ("gtin");--> statement-breakpoint
CREATE INDEX "product_search" ON "product" USING gin ("search" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "feed_fetch_feed" ON "feed_fetch" USING btree ("feed_id","id");--> statement-breakpoint
CREATE INDEX "report_run" ON "report" USING btree ("run_id");--> statement-breakpoint
CREATE INDEX "run_feed" ON "run" USING btree ("feed_id","id");--> statement-breakpoint
CREATE INDEX "run_item_key" ON "run_item" USING btree ("run_id","item_key");--> statement-breakpoint
CREATE INDEX "action_at" ON "action" USING btree ("at");--> statement-breakpoint
CREATE INDEX "change_subject" ON "change" USING btree ("subject_kind","subject_id","at");--> statement-breakpoint
CREATE INDEX "session_user" ON "session" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "job_state" ON "job" USING btree ("state","id");--> statement-breakpoint
CREATE INDEX "batch_row_outcome" ON "batch_row" USING btree ("batch_id","outcome","row");--> statement-breakpoint
CREATE INDEX "family_key_product" ON "family_key" USING btree ("product_id");--> statement-breakpoint
CREATE UNIQUE INDEX "record_supplier_key" ON "record" USING btree ("supplier_id","key");--> statement-breakpoint
CREATE INDEX "record_product" ON "record" USING btree ("product_id");--> statement-breakpoint
CREATE INDEX "record_family" ON "record" USING btree ("family_key_id");--> statement-breakpoint
CREATE INDEX "record_key_record" ON "record_key" USING btree ("record_id");--> statement-breakpoint
CREATE INDEX "record_version_batch" ON "record_version" USING btree ("batch_id");--> statement-breakpoint
CREATE INDEX "listing_unit" ON "listing" USING btree ("place_id","unit_id");--> statement-breakpoint
CREATE INDEX "listing_readiness" ON "listing" USING btree ("place_id","readiness","id");--> statement-breakpoint
CREATE INDEX "listing_cause_set" ON "listing" USING btree ("cause_set_id");--> statement-breakpoint
CREATE INDEX "listing_next_change" ON "listing" USING btree ("next_change_at");--> statement-breakpoint
CREATE INDEX "listing_variant" ON "listing" USING btree ("variant_id");--> statement-breakpoint
CREATE INDEX "listing_key_listing" ON "listing_key" USING btree ("listing_id");
--> statement-breakpoint
-- One partition a month is made ahead by the server (history/partitions.ts); what falls outside lands here.
CREATE TABLE "change_rest" PARTITION OF "change" DEFAULT;--> statement-breakpoint
-- Readiness totals per place, kept by deltas: a statement's net effect is added once.
CREATE FUNCTION keep_place_total() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'INSERT' THEN
    INSERT INTO place_total AS t (place_id, readiness, channel_state, listings)
    SELECT place_id, readiness, channel_state, count(*) FROM new_rows GROUP BY 1, 2, 3 ORDER BY 1, 2, 3
    ON CONFLICT (place_id, readiness, channel_state) DO UPDATE SET listings = t.listings + excluded.listings;
  ELSIF TG_OP = 'DELETE' THEN
    INSERT INTO place_total AS t (place_id, readiness, channel_state, listings)
    SELECT place_id, readiness, channel_state, -count(*) FROM old_rows GROUP BY 1, 2, 3 ORDER BY 1, 2, 3
    ON CONFLICT (place_id, readiness, channel_state) DO UPDATE SET listings = t.listings + excluded.listings;
  ELSE
    INSERT INTO place_total AS t (place_id, readiness, channel_state, listings)
    SELECT place_id, readiness, channel_state, sum(n) FROM (
      SELECT place_id, readiness, channel_state, 1 AS n FROM new_rows
      UNION ALL
      SELECT place_id, readiness, channel_state, -1 FROM old_rows
    ) AS both_sides GROUP BY 1, 2, 3 HAVING sum(n) <> 0 ORDER BY 1, 2, 3
    ON CONFLICT (place_id, readiness, channel_state) DO UPDATE SET listings = t.listings + excluded.listings;
  END IF;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER listing_total_insert AFTER INSERT ON listing REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_place_total();--> statement-breakpoint
CREATE TRIGGER listing_total_update AFTER UPDATE ON listing REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_place_total();--> statement-breakpoint
CREATE TRIGGER listing_total_delete AFTER DELETE ON listing REFERENCING OLD TABLE AS old_rows FOR EACH STATEMENT EXECUTE FUNCTION keep_place_total();
