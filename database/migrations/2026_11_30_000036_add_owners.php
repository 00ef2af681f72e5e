<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Who owns sites, VLANs, devices and servers; what has no owner of its own has that of its site. */
return new class extends Migration
{
    private const TABLES = ['sites', 'vlans', 'devices', 'servers'];

    public function up(): void
    {
        foreach (self::TABLES as $table) {
            Schema::table($table, function (Blueprint $t): void {
                $t->char('tenant_id', 26)->charset('ascii')->nullable();
                $t->foreign('tenant_id')->references('id')->on('tenants')->restrictOnDelete();
            });
        }
    }

    public function down(): void
    {
        foreach (self::TABLES as $table) {
            Schema::table($table, function (Blueprint $t): void {
                $t->dropForeign(['tenant_id']);
                $t->dropColumn('tenant_id');
            });
        }
    }
};
