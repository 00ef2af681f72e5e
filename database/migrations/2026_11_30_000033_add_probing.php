<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** How often a lease server probes an address before it offers it, and how long it waits each time. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('servers', function (Blueprint $t): void {
            $t->unsignedTinyInteger('probe_tries')->default(0);
            $t->unsignedSmallInteger('probe_wait_ms')->default(500);
        });
    }

    public function down(): void
    {
        Schema::table('servers', function (Blueprint $t): void {
            $t->dropColumn(['probe_tries', 'probe_wait_ms']);
        });
    }
};
