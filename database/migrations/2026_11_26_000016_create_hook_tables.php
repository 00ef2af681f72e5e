<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What happened is told to systems outside: written in the transaction of the act, delivered afterwards until it is taken. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('outbox', function (Blueprint $t): void {
            $t->id();
            $t->char('act_id', 26)->charset('ascii')->index();
            $t->dateTime('at', 3);
            $t->string('kinds', 500)->charset('ascii'); // words of the kinds of objects, each between bars
            $t->mediumText('body'); // JSON, as it is delivered
            $t->index('at');
        });
        Schema::create('hooks', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 80);
            $t->string('address', 500); // https://…
            $t->text('secret'); // encrypted
            $t->json('kinds')->nullable(); // null: of every kind
            $t->boolean('inner')->default(false); // may lead into networks of one's own
            $t->boolean('active')->default(true);
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('hook_states', function (Blueprint $t): void {
            $t->char('hook_id', 26)->charset('ascii')->primary();
            $t->unsignedBigInteger('delivered')->default(0); // the last event that was taken, or passed over as of another kind
            $t->unsignedInteger('tries')->default(0); // of the event that is due
            $t->dateTime('next_at')->nullable();
            $t->dateTime('parked_at')->nullable(); // tried for too long; goes on when somebody says so
            $t->foreign('hook_id')->references('id')->on('hooks')->cascadeOnDelete();
        });
        Schema::create('hook_deliveries', function (Blueprint $t): void {
            $t->id();
            $t->char('hook_id', 26)->charset('ascii');
            $t->unsignedBigInteger('event_id')->nullable(); // null: a test call
            $t->dateTime('at', 3);
            $t->unsignedInteger('milliseconds');
            $t->unsignedSmallInteger('status')->nullable(); // null: no answer
            $t->string('says', 500)->default('');
            $t->index(['hook_id', 'id']);
            $t->foreign('hook_id')->references('id')->on('hooks')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        Schema::drop('hook_deliveries');
        Schema::drop('hook_states');
        Schema::drop('hooks');
        Schema::drop('outbox');
    }
};
