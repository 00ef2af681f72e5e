<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** A token may be for the calendar of what is due, and for nothing else: it stands in an address. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('tokens', static function (Blueprint $t): void {
            $t->boolean('calendar')->default(false);
        });
    }

    public function down(): void
    {
        Schema::table('tokens', static function (Blueprint $t): void {
            $t->dropColumn('calendar');
        });
    }
};
