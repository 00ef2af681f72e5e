<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/**
 * What the service of names needs beside zones and records: keys, who may transfer and update, renewals, resolvers, sweeps, rights on one
 * name.
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('switch_vlans', function (Blueprint $t): void {
            $t->unsignedSmallInteger('ports')->nullable(); // null: the switch did not say
            $t->json('denies')->nullable(); // prefixes that clients of the VLAN are kept from
        });
        Schema::create('transfer_keys', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name')->charset('ascii')->unique(); // lower case, with the final dot
            $t->text('secret'); // encrypted
            $t->string('description')->default('');
            $t->unsignedInteger('version')->default(1);
        });
        Schema::table('zones', function (Blueprint $t): void {
            $t->json('transfer')->nullable(); // prefixes and "key NAME"; null: its name servers
            $t->string('update_mode', 8)->default('refused'); // refused, key, address
            $t->json('update_from')->nullable(); // prefixes or "key NAME"
            $t->unsignedInteger('lapse_after')->nullable(); // seconds since the last renewal; null: names do not lapse
            $t->unsignedInteger('lapse_quiet')->default(0); // seconds in which a renewal is acknowledged and not written
        });
        Schema::table('zone_servers', function (Blueprint $t): void {
            $t->boolean('planned')->default(false); // no NS yet: it is listed when it answers with authority
        });
        Schema::table('records', function (Blueprint $t): void {
            $t->dateTime('renewed_at')->nullable()->index(); // registered by a client; null: written by people, never lapses
            $t->char('share_id', 26)->charset('ascii')->nullable()->index(); // the same record in several views
        });
        Schema::table('record_changes', function (Blueprint $t): void {
            $t->dateTime('at')->useCurrent()->index();
            $t->char('person_id', 26)->charset('ascii')->nullable();
            $t->index(['zone_id', 'owner'], 'record_changes_owner');
        });
        Schema::table('servers', function (Blueprint $t): void {
            $t->json('resolving')->nullable(); // recursion, forwarders, fallback, hints: see Models\Server
        });
        Schema::create('sweeps', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('state', 10); // waiting, running, done, cancelled, failed
            $t->unsignedInteger('records')->default(0);
            $t->unsignedInteger('total')->default(0);
            $t->binary('cursor', 600)->nullable();
            $t->json('counts')->nullable();
            $t->string('message')->default('');
            $t->char('person_id', 26)->charset('ascii')->nullable();
            $t->dateTime('started_at');
            $t->dateTime('finished_at')->nullable();
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('sweep_findings', function (Blueprint $t): void {
            $t->id();
            $t->char('sweep_id', 26)->charset('ascii');
            $t->string('code', 20)->charset('ascii'); // missing, differing, orphan, several
            $t->char('record_id', 26)->charset('ascii');
            $t->string('name', 1010)->charset('ascii'); // the name of the address record, or what the PTR says
            $t->binary('address', 16);
            $t->string('says', 1010)->charset('ascii')->default('');
            $t->boolean('mended')->default(false);
            $t->index(['sweep_id', 'code', 'id']);
        });
        Schema::create('name_grants', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('person_id', 26)->charset('ascii');
            $t->char('zone_id', 26)->charset('ascii');
            $t->string('owner', 1010)->charset('ascii')->nullable(); // null: the whole zone
            $t->boolean('below')->default(false); // and everything under the name
            $t->unsignedSmallInteger('type')->nullable(); // null: records of every type
            $t->unsignedInteger('version')->default(1);
            $t->index(['person_id', 'zone_id']);
            $t->index('zone_id');
        });
    }
};
