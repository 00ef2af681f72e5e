<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    /** Tables by the time at which their rows were over: what is older than it is kept is found without reading the rest. */
    private const BY_TIME = ['leases' => 'gone_at', 'sightings' => 'last_seen', 'imports' => 'started_at', 'hook_deliveries' => 'at'];

    public function up(): void
    {
        foreach (self::BY_TIME as $table => $column) {
            Schema::table($table, fn (Blueprint $t) => $t->index($column));
        }
    }

    public function down(): void
    {
        foreach (self::BY_TIME as $table => $column) {
            Schema::table($table, fn (Blueprint $t) => $t->dropIndex([$column]));
        }
    }
};
