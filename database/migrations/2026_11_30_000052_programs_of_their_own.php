<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Programs that act for nobody: with rights of their own, and no sign-in. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('people', static fn (Blueprint $t) => $t->boolean('program')->default(false));
    }

    public function down(): void
    {
        Schema::table('people', static fn (Blueprint $t) => $t->dropColumn('program'));
    }
};
