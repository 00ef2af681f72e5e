<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Drafts that others read and agree to, and the rules that say when they have to. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('drafts', function (Blueprint $t): void {
            $t->string('title', 120)->default('');
            $t->string('why', 2000)->default('');
            $t->dateTime('submitted_at')->nullable();
            $t->index(['state', 'submitted_at']);
        });
        Schema::create('approval_rules', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('kind', 12)->charset('ascii');
            $t->string('value', 40)->default(''); // a number, a noun, a site
            $t->unsignedTinyInteger('needs');
            $t->boolean('active')->default(true);
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('draft_decisions', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('draft_id', 26)->charset('ascii')->index();
            $t->char('person_id', 26)->charset('ascii');
            $t->string('verdict', 10)->charset('ascii'); // agreed, refused, emergency
            $t->string('reason', 2000)->default('');
            $t->char('digest', 64)->charset('ascii'); // of the draft as it was read
            $t->dateTime('at');
            $t->dateTime('void_at')->nullable(); // the draft was changed after that
            $t->foreign('draft_id')->references('id')->on('drafts')->cascadeOnDelete();
        });
        Schema::create('draft_remarks', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('draft_id', 26)->charset('ascii')->index();
            $t->char('edit_id', 26)->charset('ascii')->nullable(); // null: on the draft as a whole
            $t->char('person_id', 26)->charset('ascii');
            $t->string('text', 2000);
            $t->dateTime('at');
            $t->foreign('draft_id')->references('id')->on('drafts')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        Schema::drop('draft_remarks');
        Schema::drop('draft_decisions');
        Schema::drop('approval_rules');
        Schema::table('drafts', function (Blueprint $t): void {
            $t->dropIndex(['state', 'submitted_at']);
            $t->dropColumn(['title', 'why', 'submitted_at']);
        });
    }
};
