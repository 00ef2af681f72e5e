<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** DHCPv6: options of both families, two life times, delegated prefixes, and clients known by their DUID. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('scopes', function (Blueprint $t): void {
            $t->unsignedInteger('preferred_time')->nullable(); // seconds, of an IPv6 scope; its lease time is the valid life
            $t->boolean('rapid_commit')->default(false);
            $t->boolean('autonomous')->default(false); // clients make addresses of their own too (RFC 4862)
        });
        Schema::create('scope_delegations', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('scope_id', 26)->charset('ascii')->index();
            $t->char('server_id', 26)->charset('ascii')->nullable()->index(); // null: all servers of the scope
            $t->binary('first', 16);
            $t->unsignedTinyInteger('pool_length');
            $t->unsignedTinyInteger('length'); // of the parts that are handed out
            $t->index('first');
            $t->foreign('scope_id')->references('id')->on('scopes')->restrictOnDelete();
            $t->foreign('server_id')->references('id')->on('servers')->restrictOnDelete();
        });
        Schema::table('option_values', function (Blueprint $t): void {
            $t->unsignedTinyInteger('family')->default(4);
            $t->unsignedSmallInteger('code')->change(); // two bytes in DHCPv6
            $t->unique(['layer', 'layer_id', 'family', 'code']);
            $t->dropUnique(['layer', 'layer_id', 'code']);
        });
        Schema::table('reservations', function (Blueprint $t): void {
            $t->bigInteger('iaid')->default(-1); // -1: whatever number its association has
            $t->unsignedTinyInteger('length')->default(0); // of a delegated prefix; 0: an address
            $t->unique(['scope_id', 'client_id', 'iaid', 'length']);
            $t->dropUnique(['scope_id', 'client_id']);
        });
        Schema::table('leases', function (Blueprint $t): void {
            $t->binary('client_id', 130)->nullable(); // DUID
            $t->unsignedInteger('iaid')->nullable();
            $t->unsignedTinyInteger('length')->default(0); // of a delegated prefix; 0: an address
            $t->dateTime('preferred_at')->nullable(); // until when new connections may begin with it
            $t->index('client_id');
        });
        Schema::table('lease_bindings', fn (Blueprint $t) => $t->binary('client_id', 130)->nullable());
        Schema::table('switch_vlans', fn (Blueprint $t) => $t->json('advertises')->nullable()); // what its router tells clients
    }

    public function down(): void
    {
        Schema::table('switch_vlans', fn (Blueprint $t) => $t->dropColumn('advertises'));
        Schema::table('lease_bindings', fn (Blueprint $t) => $t->dropColumn('client_id'));
        DB::table('leases')->whereRaw('LENGTH(address) = 16')->delete();
        Schema::table('leases', function (Blueprint $t): void {
            $t->dropIndex(['client_id']);
            $t->dropColumn(['client_id', 'iaid', 'length', 'preferred_at']);
        });
        DB::table('reservations')->whereRaw('LENGTH(address) = 16')->delete();
        Schema::table('reservations', function (Blueprint $t): void {
            $t->unique(['scope_id', 'client_id']);
            $t->dropUnique(['scope_id', 'client_id', 'iaid', 'length']);
            $t->dropColumn(['iaid', 'length']);
        });
        DB::table('option_values')->where('family', 6)->delete();
        Schema::table('option_values', function (Blueprint $t): void {
            $t->unique(['layer', 'layer_id', 'code']);
            $t->dropUnique(['layer', 'layer_id', 'family', 'code']);
            $t->unsignedTinyInteger('code')->change();
            $t->dropColumn('family');
        });
        Schema::drop('scope_delegations');
        Schema::table('scopes', fn (Blueprint $t) => $t->dropColumn(['preferred_time', 'rapid_commit', 'autonomous']));
    }
};
