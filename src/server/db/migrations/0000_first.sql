CREATE TABLE "characters" (
	"plan_id" text NOT NULL,
	"key" text NOT NULL,
	"order" text NOT NULL,
	"place" text,
	"id" text,
	"name" text,
	"experience" text,
	"curve" text,
	"startLevel" integer,
	"joins" text,
	"cap" integer,
	"stats" jsonb,
	"forms" jsonb,
	"rewards" jsonb,
	CONSTRAINT "characters_plan_id_key_pk" PRIMARY KEY("plan_id","key")
);
--> statement-breakpoint
CREATE TABLE "curves" (
	"plan_id" text NOT NULL,
	"key" text NOT NULL,
	"order" text NOT NULL,
	"place" text,
	"id" text,
	"name" text,
	"firstLevel" integer,
	"maxLevel" integer,
	"counts" text,
	"rule" jsonb,
	"rounding" text,
	"levelUpAt" text,
	"remainder" text,
	"levelsPerGain" text,
	"atTop" text,
	CONSTRAINT "curves_plan_id_key_pk" PRIMARY KEY("plan_id","key")
);
--> statement-breakpoint
CREATE TABLE "gates" (
	"plan_id" text NOT NULL,
	"key" text NOT NULL,
	"order" text NOT NULL,
	"place" text,
	"id" text,
	"name" text,
	"kind" text,
	"role" text,
	"guards" jsonb,
	"requires" text,
	"costs" jsonb,
	"stays" text,
	"due" text,
	"yields" jsonb,
	"caps" jsonb,
	"lockedText" text,
	"minutes" double precision,
	CONSTRAINT "gates_plan_id_key_pk" PRIMARY KEY("plan_id","key")
);
--> statement-breakpoint
CREATE TABLE "passages" (
	"plan_id" text NOT NULL,
	"key" text NOT NULL,
	"order" text NOT NULL,
	"place" text,
	"id" text,
	"from" text,
	"to" text,
	"twoWay" boolean,
	CONSTRAINT "passages_plan_id_key_pk" PRIMARY KEY("plan_id","key")
);
--> statement-breakpoint
CREATE TABLE "patterns" (
	"plan_id" text NOT NULL,
	"key" text NOT NULL,
	"order" text NOT NULL,
	"place" text,
	"id" text,
	"name" text,
	"kind" text,
	"yields" jsonb,
	"takes" jsonb,
	"respawns" boolean,
	"minutes" double precision,
	CONSTRAINT "patterns_plan_id_key_pk" PRIMARY KEY("plan_id","key")
);
--> statement-breakpoint
CREATE TABLE "places" (
	"plan_id" text NOT NULL,
	"key" text NOT NULL,
	"order" text NOT NULL,
	"place" text,
	"id" text,
	"name" text,
	"kind" text,
	"goal" boolean,
	"minutes" double precision,
	CONSTRAINT "places_plan_id_key_pk" PRIMARY KEY("plan_id","key")
);
--> statement-breakpoint
CREATE TABLE "plans" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"head" jsonb NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"changed_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "profiles" (
	"plan_id" text NOT NULL,
	"key" text NOT NULL,
	"order" text NOT NULL,
	"place" text,
	"id" text,
	"name" text,
	"main" double precision,
	"side" double precision,
	"buys" text,
	"retries" integer,
	CONSTRAINT "profiles_plan_id_key_pk" PRIMARY KEY("plan_id","key")
);
--> statement-breakpoint
CREATE TABLE "routes" (
	"plan_id" text NOT NULL,
	"key" text NOT NULL,
	"order" text NOT NULL,
	"place" text,
	"id" text,
	"name" text,
	"stops" jsonb,
	CONSTRAINT "routes_plan_id_key_pk" PRIMARY KEY("plan_id","key")
);
--> statement-breakpoint
CREATE TABLE "sources" (
	"plan_id" text NOT NULL,
	"key" text NOT NULL,
	"order" text NOT NULL,
	"place" text,
	"id" text,
	"name" text,
	"pattern" text,
	"kind" text,
	"role" text,
	"count" integer,
	"yields" jsonb,
	"takes" jsonb,
	"requires" text,
	"respawns" boolean,
	"minutes" double precision,
	"caps" jsonb,
	CONSTRAINT "sources_plan_id_key_pk" PRIMARY KEY("plan_id","key")
);
--> statement-breakpoint
CREATE TABLE "steps" (
	"plan_id" text NOT NULL,
	"revision" integer NOT NULL,
	"id" text NOT NULL,
	"kind" text NOT NULL,
	"diff" jsonb NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "steps_plan_id_revision_pk" PRIMARY KEY("plan_id","revision")
);
--> statement-breakpoint
CREATE TABLE "tallies" (
	"plan_id" text NOT NULL,
	"key" text NOT NULL,
	"order" text NOT NULL,
	"place" text,
	"id" text,
	"name" text,
	"kind" text,
	"start" double precision,
	"min" double precision,
	"max" double precision,
	"resets" text,
	"saved" boolean,
	CONSTRAINT "tallies_plan_id_key_pk" PRIMARY KEY("plan_id","key")
);
--> statement-breakpoint
ALTER TABLE "characters" ADD CONSTRAINT "characters_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "curves" ADD CONSTRAINT "curves_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "gates" ADD CONSTRAINT "gates_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passages" ADD CONSTRAINT "passages_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "patterns" ADD CONSTRAINT "patterns_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "places" ADD CONSTRAINT "places_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "profiles" ADD CONSTRAINT "profiles_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "routes" ADD CONSTRAINT "routes_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sources" ADD CONSTRAINT "sources_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "steps" ADD CONSTRAINT "steps_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tallies" ADD CONSTRAINT "tallies_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "steps_by_id" ON "steps" USING btree ("plan_id","id");