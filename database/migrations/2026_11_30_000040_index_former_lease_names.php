<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Who had a lease under a name is found by its start. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('lease_bindings', static function (Blueprint $t): void {
            $t->index(['host_name', 'id']);
        });
    }

    public function down(): void
    {
        Schema::table('lease_bindings', static function (Blueprint $t): void {
            $t->dropIndex(['host_name', 'id']);
        });
    }
};
