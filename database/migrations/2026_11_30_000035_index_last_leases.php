<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** When a scope leased last, without reading its leases. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('leases', function (Blueprint $t): void {
            $t->index(['scope_id', 'starts_at']);
        });
    }

    public function down(): void
    {
        Schema::table('leases', function (Blueprint $t): void {
            $t->dropIndex(['scope_id', 'starts_at']);
        });
    }
};
