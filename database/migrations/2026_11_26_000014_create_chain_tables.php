<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** The history is chained by hash, apart from it; and found by person and act. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('history_chain', function (Blueprint $t): void {
            $t->unsignedBigInteger('seq')->primary(); // from 1, without a gap
            $t->unsignedBigInteger('history_id')->unique();
            $t->char('hash', 64)->charset('ascii'); // over the one before and the entry
            $t->dateTime('sealed_at');
        });
        Schema::table('history', function (Blueprint $t): void {
            $t->index(['action', 'id']);
        });
    }

    public function down(): void
    {
        Schema::table('history', function (Blueprint $t): void {
            $t->dropIndex(['action', 'id']);
        });
        Schema::drop('history_chain');
    }
};
