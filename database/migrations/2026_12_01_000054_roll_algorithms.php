<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('zone_keys', function (Blueprint $t): void {
            // signs without standing among the keys: before and after a change of the algorithm
            $t->boolean('beside')->default(false)->after('wants');
            $t->unsignedBigInteger('withdrawn')->nullable()->after('ds_seen');
        });
    }

    public function down(): void
    {
        Schema::table('zone_keys', fn (Blueprint $t) => $t->dropColumn(['beside', 'withdrawn']));
    }
};
