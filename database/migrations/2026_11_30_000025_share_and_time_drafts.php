<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Several drafts a person, shared with others; a time at which one becomes true; when servers are shipped to, and when not. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('draft_hands', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('draft_id', 26)->charset('ascii');
            $t->char('person_id', 26)->charset('ascii');
            $t->boolean('current')->default(false); // edits of the person go here
            $t->unique(['draft_id', 'person_id']);
            $t->index(['person_id', 'current']);
            $t->foreign('draft_id')->references('id')->on('drafts')->cascadeOnDelete();
            $t->foreign('person_id')->references('id')->on('people')->restrictOnDelete();
        });
        DB::statement(
            "INSERT INTO draft_hands (id, draft_id, person_id, current) SELECT id, id, person_id, state = 'open' FROM drafts",
        );
        Schema::table('draft_edits', function (Blueprint $t): void {
            $t->char('person_id', 26)->charset('ascii')->nullable(); // who made it, where that is not the author of the draft
        });
        Schema::table('drafts', function (Blueprint $t): void {
            $t->dropColumn(['decided_by', 'decision_reason']);
            $t->dateTime('due_at')->nullable(); // when it is committed by itself
            $t->char('due_digest', 64)->charset('ascii')->nullable(); // of what would be written, as it was shown
            $t->string('due_reason', 250)->default('');
            $t->string('due_problem', 500)->default(''); // why it was not committed when its time came
            $t->index(['state', 'due_at']);
        });
        Schema::create('windows', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 80);
            $t->char('server_id', 26)->charset('ascii')->nullable();
            $t->char('site_id', 26)->charset('ascii')->nullable(); // neither: every server
            $t->string('days', 13)->charset('ascii'); // of the week, 1 for Monday
            $t->char('starts', 5)->charset('ascii');
            $t->unsignedSmallInteger('minutes');
            $t->string('zone', 64)->charset('ascii');
            $t->unsignedInteger('version')->default(1);
            $t->foreign('server_id')->references('id')->on('servers')->cascadeOnDelete();
            $t->foreign('site_id')->references('id')->on('sites')->cascadeOnDelete();
        });
        Schema::create('freezes', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('why', 200);
            $t->char('server_id', 26)->charset('ascii')->nullable();
            $t->char('site_id', 26)->charset('ascii')->nullable();
            $t->dateTime('starts_at');
            $t->dateTime('ends_at');
            $t->unsignedInteger('version')->default(1);
            $t->index('ends_at');
            $t->foreign('server_id')->references('id')->on('servers')->cascadeOnDelete();
            $t->foreign('site_id')->references('id')->on('sites')->cascadeOnDelete();
        });
        Schema::table('servers', function (Blueprint $t): void {
            $t->string('ships', 8)->charset('ascii')->default('hand'); // by hand, at once, in windows
        });
        Schema::table('shipments', function (Blueprint $t): void {
            $t->json('behind')->nullable(); // shipments that have to end well before this one
            $t->dateTime('ends_by')->nullable(); // no step begins after that
        });
    }

    public function down(): void
    {
        Schema::table('shipments', fn (Blueprint $t) => $t->dropColumn(['behind', 'ends_by']));
        Schema::table('servers', fn (Blueprint $t) => $t->dropColumn('ships'));
        Schema::drop('freezes');
        Schema::drop('windows');
        Schema::table('drafts', function (Blueprint $t): void {
            $t->dropIndex(['state', 'due_at']);
            $t->dropColumn(['due_at', 'due_digest', 'due_reason', 'due_problem']);
            $t->char('decided_by', 26)->charset('ascii')->nullable();
            $t->string('decision_reason')->nullable();
        });
        Schema::table('draft_edits', fn (Blueprint $t) => $t->dropColumn('person_id'));
        Schema::drop('draft_hands');
    }
};
