<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Who left is on no list any more; the row stays for the history, which tells what they did by their name. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('people', static fn (Blueprint $t) => $t->dateTime('removed_at')->nullable());
    }

    public function down(): void
    {
        Schema::table('people', static fn (Blueprint $t) => $t->dropColumn('removed_at'));
    }
};
