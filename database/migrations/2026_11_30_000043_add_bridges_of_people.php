<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** The report and the chart that somebody keeps on their bridge. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('people', static function (Blueprint $t): void {
            $t->json('bridge')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('people', static function (Blueprint $t): void {
            $t->dropColumn('bridge');
        });
    }
};
