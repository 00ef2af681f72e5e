<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Programs that act for people: their tokens, what they were answered, and in history by which way a change came. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('tokens', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('person_id', 26)->charset('ascii')->index();
            $t->string('name', 80);
            $t->char('hash', 64)->charset('ascii')->unique(); // SHA-256 of what the program sends
            $t->boolean('writes')->default(false);
            $t->json('acts')->nullable(); // keys of the acts it may do; null: all that its person may
            $t->dateTime('expires_at')->nullable();
            $t->dateTime('last_used_at')->nullable();
            $t->dateTime('revoked_at')->nullable();
            $t->dateTime('made_at');
            $t->unsignedInteger('version')->default(1);
            $t->foreign('person_id')->references('id')->on('people')->cascadeOnDelete();
        });
        Schema::create('answered', function (Blueprint $t): void {
            $t->char('token_id', 26)->charset('ascii');
            $t->string('key', 80)->charset('ascii')->collation('ascii_bin'); // Idempotency-Key
            $t->char('request', 64)->charset('ascii'); // digest of method, address and body
            $t->unsignedSmallInteger('status')->nullable(); // null: it is being answered
            $t->mediumText('body')->nullable();
            $t->dateTime('at');
            $t->primary(['token_id', 'key']);
            $t->index('at');
            $t->foreign('token_id')->references('id')->on('tokens')->cascadeOnDelete();
        });
        Schema::table('history', fn (Blueprint $t) => $t->string('via', 120)->nullable());
    }

    public function down(): void
    {
        Schema::table('history', fn (Blueprint $t) => $t->dropColumn('via'));
        Schema::drop('answered');
        Schema::drop('tokens');
    }
};
