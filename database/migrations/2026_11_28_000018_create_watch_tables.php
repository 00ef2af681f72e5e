<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Reports and when they are sent, rules about the data and what they find. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('reports', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 120);
            $t->string('kind', 20)->charset('ascii');
            $t->char('site_id', 26)->charset('ascii')->nullable(); // with all sites below
            $t->json('conditions'); // [{fact, test, value}]
            $t->json('columns'); // facts, in order
            $t->string('sort', 40)->default(''); // fact, "-" before it for the largest first
            $t->string('by', 20)->default(''); // fact by which rows stand together
            $t->string('every', 5)->default(''); // day, week, month; blank: only looked at
            $t->unsignedTinyInteger('day')->default(1);
            $t->string('time', 5)->default('07:00');
            $t->string('zone', 60)->default('UTC');
            $t->json('people'); // ids of those who get it, each as far as they may see
            $t->boolean('paused')->default(false);
            $t->char('author_id', 26)->charset('ascii')->nullable();
            $t->dateTime('due_at')->nullable()->index(); // the next run, UTC
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('report_runs', function (Blueprint $t): void {
            $t->id();
            $t->char('report_id', 26)->charset('ascii');
            $t->char('person_id', 26)->charset('ascii');
            $t->dateTime('due_at'); // UTC
            $t->dateTime('done_at')->nullable();
            $t->unsignedInteger('count')->default(0);
            $t->string('state', 10)->default('running'); // running, done, empty, failed
            $t->string('words', 250)->default('');
            $t->dateTime('seen_at')->nullable();
            $t->binary('body')->nullable(); // CSV, gzip
            // Two schedulers at once make one run.
            $t->unique(['report_id', 'person_id', 'due_at']);
            $t->index(['person_id', 'id']);
            $t->foreign('report_id')->references('id')->on('reports')->cascadeOnDelete();
        });
        DB::statement('ALTER TABLE report_runs MODIFY body MEDIUMBLOB NULL');
        Schema::create('audits', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 120);
            $t->string('kind', 20)->charset('ascii');
            $t->char('site_id', 26)->charset('ascii')->nullable();
            $t->json('where'); // of which objects
            $t->json('must'); // what each of them must be
            $t->string('severity', 10)->charset('ascii'); // error, warning, note
            $t->string('explanation', 500)->default('');
            $t->boolean('active')->default(true);
            $t->dateTime('run_at')->nullable();
            $t->unsignedInteger('failing')->default(0);
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('audit_findings', function (Blueprint $t): void {
            $t->id();
            $t->char('audit_id', 26)->charset('ascii');
            $t->char('object_id', 26)->charset('ascii');
            $t->string('title', 250);
            $t->dateTime('since');
            $t->date('waived_until')->nullable();
            $t->string('reason', 250)->default('');
            $t->unique(['audit_id', 'object_id']);
            $t->foreign('audit_id')->references('id')->on('audits')->cascadeOnDelete();
        });
        Schema::create('audit_days', function (Blueprint $t): void {
            $t->char('audit_id', 26)->charset('ascii');
            $t->date('day');
            $t->unsignedInteger('failing');
            $t->primary(['audit_id', 'day']);
            $t->foreign('audit_id')->references('id')->on('audits')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        foreach (['audit_days', 'audit_findings', 'audits', 'report_runs', 'reports'] as $table) {
            Schema::drop($table);
        }
    }
};
