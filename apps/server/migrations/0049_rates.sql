CREATE TABLE "rate" (
	"from_currency" text NOT NULL,
	"to_currency" text NOT NULL,
	"rate" text NOT NULL,
	"source" text NOT NULL,
	"day" date NOT NULL,
	CONSTRAINT "rate_from_currency_to_currency_pk" PRIMARY KEY("from_currency","to_currency")
);
