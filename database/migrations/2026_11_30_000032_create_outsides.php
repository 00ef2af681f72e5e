<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Systems outside that hold pools, how they stood when they were compared, and what was brought either way. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('outsides', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 80)->unique();
            $t->string('address', 255);
            $t->text('token')->nullable();
            $t->char('space_id', 26)->charset('ascii');
            $t->char('under_id', 26)->charset('ascii')->nullable(); // what lies in this prefix; null: the whole space
            $t->string('leads', 10)->charset('ascii')->default('nobody'); // here, there, nobody
            $t->boolean('keeps')->default(false); // kept in step by itself
            $t->unsignedInteger('version')->default(1);
            $t->foreign('space_id')->references('id')->on('spaces')->restrictOnDelete();
        });
        Schema::create('outside_states', function (Blueprint $t): void {
            $t->char('outside_id', 26)->charset('ascii')->primary();
            $t->dateTime('compared_at')->nullable();
            $t->json('counts')->nullable(); // state → how many
            $t->string('problem', 500)->nullable();
            $t->foreign('outside_id')->references('id')->on('outsides')->cascadeOnDelete();
        });
        Schema::create('outside_runs', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('outside_id', 26)->charset('ascii');
            $t->char('person_id', 26)->charset('ascii')->nullable(); // null: by itself
            $t->string('state', 10)->charset('ascii'); // running, done, partial, failed, stopped
            $t->dateTime('started_at');
            $t->dateTime('ended_at')->nullable();
            $t->json('chosen'); // keys of lines that are still to be brought
            $t->json('steps'); // what was done with each: prefix, what, state, message
            $t->index(['outside_id', 'started_at']);
            $t->foreign('outside_id')->references('id')->on('outsides')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        Schema::drop('outside_runs');
        Schema::drop('outside_states');
        Schema::drop('outsides');
    }
};
