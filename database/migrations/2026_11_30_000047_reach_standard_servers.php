<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Name servers that are reached by the standards alone: transfers and updates, signed by a key. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('servers', static function (Blueprint $t): void {
            $t->string('speaks', 12)->charset('ascii')->default('control');
            $t->char('key_id', 26)->charset('ascii')->nullable();
            $t->foreign('key_id')->references('id')->on('transfer_keys')->restrictOnDelete();
        });
        Schema::table('transfer_keys', static function (Blueprint $t): void {
            $t->string('algorithm', 12)->charset('ascii')->default('hmac-sha256');
        });
    }

    public function down(): void
    {
        Schema::table('transfer_keys', static fn (Blueprint $t) => $t->dropColumn('algorithm'));
        Schema::table('servers', static function (Blueprint $t): void {
            $t->dropForeign(['key_id']);
            $t->dropColumn(['speaks', 'key_id']);
        });
    }
};
