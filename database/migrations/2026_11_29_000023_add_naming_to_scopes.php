<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** How the leases of a scope are named: who writes the names, where, and as what. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('scopes', function (Blueprint $t): void {
            $t->string('name_who', 8)->nullable(); // server, client; null: nobody
            $t->char('name_zone_id', 26)->charset('ascii')->nullable()->index();
            $t->char('name_key_id', 26)->charset('ascii')->nullable()->index();
            $t->unsignedInteger('name_ttl')->nullable();
            $t->boolean('name_by_pattern')->default(false);
            $t->string('name_pattern', 63)->default('');
        });
    }

    public function down(): void
    {
        Schema::table('scopes', function (Blueprint $t): void {
            $t->dropColumn(['name_who', 'name_zone_id', 'name_key_id', 'name_ttl', 'name_by_pattern', 'name_pattern']);
        });
    }
};
