<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Clients told apart: classes, ranges kept for them, reservations by client identifier, and who had an address before. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('client_classes', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 60)->unique();
            $t->unsignedInteger('position'); // where several hold, the first one counts
            $t->boolean('any')->default(false); // any condition will do, or all must hold
            $t->json('conditions'); // list of {field, is, value}
            $t->string('description')->default('');
            $t->unsignedInteger('version')->default(1);
        });
        Schema::table('scope_ranges', function (Blueprint $t): void {
            $t->char('class_id', 26)->charset('ascii')->nullable()->index();
            $t->boolean('class_only')->nullable(); // true: kept for the class; false: closed to it
        });
        Schema::table('scope_servers', function (Blueprint $t): void {
            $t->unsignedSmallInteger('delay_ms')->default(0); // how long the server holds its offers back
        });
        Schema::table('reservations', function (Blueprint $t): void {
            $t->binary('mac', 6)->nullable()->change(); // null: the client is known by its identifier
            $t->binary('client_id', 130)->nullable(); // payload of option 61
            $t->unique(['scope_id', 'client_id']);
        });
        Schema::create('lease_bindings', function (Blueprint $t): void {
            $t->id();
            $t->char('server_id', 26)->charset('ascii');
            $t->binary('address', 16);
            $t->binary('mac', 6)->nullable();
            $t->string('host_name')->default('');
            $t->string('state', 10);
            $t->dateTime('starts_at');
            $t->dateTime('ends_at');
            $t->dateTime('until_at'); // when a reading first found it otherwise
            $t->index(['address', 'id']);
            $t->index(['mac', 'id']);
            $t->foreign('server_id')->references('id')->on('servers')->cascadeOnDelete();
        });
        Schema::table('leases', function (Blueprint $t): void {
            $t->index('ends_at');
            $t->index('starts_at');
            $t->index('host_name');
        });
    }

    public function down(): void
    {
        Schema::table('leases', function (Blueprint $t): void {
            $t->dropIndex(['ends_at']);
            $t->dropIndex(['starts_at']);
            $t->dropIndex(['host_name']);
        });
        Schema::drop('lease_bindings');
        DB::table('reservations')->whereNull('mac')->delete();
        Schema::table('reservations', function (Blueprint $t): void {
            $t->dropUnique(['scope_id', 'client_id']);
            $t->dropColumn('client_id');
            $t->binary('mac', 6)->nullable(false)->change();
        });
        Schema::table('scope_servers', fn (Blueprint $t) => $t->dropColumn('delay_ms'));
        Schema::table('scope_ranges', fn (Blueprint $t) => $t->dropColumn(['class_id', 'class_only']));
        Schema::drop('client_classes');
    }
};
