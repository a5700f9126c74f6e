CREATE TABLE "walks" (
	"plan_id" text NOT NULL,
	"key" text NOT NULL,
	"order" text NOT NULL,
	"place" text,
	"id" text,
	"name" text,
	"from" jsonb,
	"steps" jsonb,
	CONSTRAINT "walks_plan_id_key_pk" PRIMARY KEY("plan_id","key")
);
--> statement-breakpoint
ALTER TABLE "walks" ADD CONSTRAINT "walks_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;