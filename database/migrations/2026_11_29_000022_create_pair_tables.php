<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Pairs of servers that lease the same addresses and tell each other, and how each of the two was last seen. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('pairs', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 60)->unique();
            $t->char('first_id', 26)->charset('ascii')->index();
            $t->char('second_id', 26)->charset('ascii')->index();
            $t->string('mode', 8); // balance, standby
            $t->unsignedTinyInteger('percent'); // of the clients that the first answers; of the addresses kept for the second
            $t->unsignedInteger('lead'); // seconds that a lease may run ahead of what the partner knows
            $t->text('keys'); // encrypted JSON: [{id, secret, made}], the newest last
            $t->char('off_id', 26)->charset('ascii')->nullable(); // the server that somebody said is off, last
            $t->dateTime('off_at')->nullable();
            $t->string('description')->default('');
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('pair_servers', function (Blueprint $t): void {
            $t->id();
            $t->char('pair_id', 26)->charset('ascii');
            $t->char('server_id', 26)->charset('ascii')->index();
            $t->char('shipped_digest', 64)->charset('ascii')->nullable();
            $t->dateTime('shipped_at')->nullable();
            $t->dateTime('verified_at')->nullable();
            $t->dateTime('read_at')->nullable();
            $t->string('state', 30)->charset('ascii')->nullable(); // as RFC 8156 names it
            $t->json('told')->nullable(); // what the server says of itself
            $t->string('problem', 500)->nullable();
            $t->unique(['pair_id', 'server_id']);
            $t->foreign('pair_id')->references('id')->on('pairs')->cascadeOnDelete();
        });
        Schema::table('scopes', fn (Blueprint $t) => $t->char('pair_id', 26)->charset('ascii')->nullable()->index());
    }

    public function down(): void
    {
        Schema::table('scopes', fn (Blueprint $t) => $t->dropColumn('pair_id'));
        Schema::drop('pair_servers');
        Schema::drop('pairs');
    }
};
