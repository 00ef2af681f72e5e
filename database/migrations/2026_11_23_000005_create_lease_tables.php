<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Scopes with their ranges, exclusions, options and reservations, and the leases read from servers. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('scopes', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('prefix_id', 26)->charset('ascii')->unique();
            $t->string('name', 120);
            $t->string('stage', 10)->default('live'); // planned scopes are not shipped
            $t->unsignedInteger('lease_time');
            $t->string('description')->default('');
            $t->unsignedInteger('version')->default(1);
            $t->index('name');
        });
        Schema::create('scope_ranges', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('scope_id', 26)->charset('ascii')->index();
            $t->char('server_id', 26)->charset('ascii')->nullable(); // null: all servers of the scope
            $t->binary('first', 16);
            $t->binary('last', 16);
        });
        Schema::create('scope_exclusions', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('scope_id', 26)->charset('ascii')->index();
            $t->binary('first', 16);
            $t->binary('last', 16);
            $t->string('reason')->default('');
        });
        Schema::create('scope_servers', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('scope_id', 26)->charset('ascii');
            $t->char('server_id', 26)->charset('ascii')->index();
            $t->char('shipped_digest', 64)->charset('ascii')->nullable();
            $t->dateTime('shipped_at')->nullable();
            $t->dateTime('verified_at')->nullable();
            $t->unique(['scope_id', 'server_id']);
        });
        Schema::create('option_values', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('layer', 12); // organisation, server, site, scope, class, reservation
            $t->char('layer_id', 26)->charset('ascii');
            $t->unsignedTinyInteger('code');
            $t->json('values');
            $t->unsignedInteger('version')->default(1);
            $t->unique(['layer', 'layer_id', 'code']);
        });
        Schema::create('reservations', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('scope_id', 26)->charset('ascii');
            $t->binary('address', 16);
            $t->binary('mac', 6);
            $t->string('name', 120)->default('');
            $t->char('address_id', 26)->charset('ascii')->nullable()->index();
            $t->unsignedInteger('version')->default(1);
            $t->unique(['scope_id', 'address']);
            $t->unique(['scope_id', 'mac']);
            $t->index('mac');
            $t->index('address');
        });
        Schema::create('leases', function (Blueprint $t): void {
            $t->id();
            $t->char('server_id', 26)->charset('ascii');
            $t->char('scope_id', 26)->charset('ascii')->nullable()->index();
            $t->binary('address', 16);
            $t->binary('mac', 6);
            $t->string('host_name')->default('');
            $t->string('state', 10);
            $t->dateTime('starts_at');
            $t->dateTime('ends_at');
            $t->unique(['server_id', 'address']);
            $t->index('address');
            $t->index('mac');
        });
    }
};
