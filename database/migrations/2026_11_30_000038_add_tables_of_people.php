<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Which columns of which tables somebody does not want to see, and how close their rows stand. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('people', static function (Blueprint $t): void {
            $t->json('tables')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('people', static function (Blueprint $t): void {
            $t->dropColumn('tables');
        });
    }
};
