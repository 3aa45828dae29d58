CREATE TABLE "stored_file" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "stored_file_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"name" text NOT NULL,
	"key" text NOT NULL,
	"hash" text NOT NULL,
	"bytes" bigint NOT NULL,
	"type" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "stored_file_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE INDEX "stored_file_key" ON "stored_file" USING btree ("key");--> statement-breakpoint
CREATE INDEX "stored_file_hash" ON "stored_file" USING btree ("hash");