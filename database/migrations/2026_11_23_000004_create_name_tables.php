<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Views, zones, records and the journal of what changed in a zone since which serial. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('views', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 60)->unique();
            $t->json('clients'); // prefixes whose questions it answers
            $t->unsignedInteger('position'); // the first view with a matching prefix answers
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('zones', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('view_id', 26)->charset('ascii');
            $t->string('name')->charset('ascii'); // lower case, with the final dot
            $t->string('primary_server')->charset('ascii');
            $t->string('mailbox')->charset('ascii');
            $t->unsignedInteger('serial'); // of the last shipment; raised once when shipped
            $t->unsignedInteger('refresh');
            $t->unsignedInteger('retry');
            $t->unsignedInteger('expire');
            $t->unsignedInteger('negative_ttl');
            $t->unsignedInteger('default_ttl');
            $t->boolean('silenced')->default(false);
            $t->char('tenant_id', 26)->charset('ascii')->nullable()->index();
            $t->string('description')->default('');
            $t->unsignedInteger('version')->default(1);
            $t->unique(['name', 'view_id']);
        });
        Schema::create('zone_servers', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('zone_id', 26)->charset('ascii');
            $t->char('server_id', 26)->charset('ascii')->index();
            $t->string('part', 10); // primary, secondary
            $t->unsignedInteger('shipped_serial')->nullable();
            $t->dateTime('shipped_at')->nullable();
            $t->dateTime('verified_at')->nullable();
            $t->unique(['zone_id', 'server_id']);
        });
        Schema::create('records', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('zone_id', 26)->charset('ascii');
            $t->string('owner', 1010)->charset('ascii'); // absolute, lower case, with the final dot
            $t->binary('owner_key', 512); // canonical order
            $t->unsignedSmallInteger('type');
            $t->unsignedInteger('ttl')->nullable(); // null inherits the zone's
            $t->mediumText('data'); // presentation form, names absolute
            $t->binary('data_hash', 16);
            $t->string('target', 1010)->charset('ascii')->nullable(); // the name it points at
            $t->char('address_id', 26)->charset('ascii')->nullable()->index(); // the host it belongs to
            $t->unsignedInteger('version')->default(1);
            $t->unique(['zone_id', 'owner_key', 'type', 'data_hash'], 'records_key');
            $t->index('owner', 'records_owner'); // whole, so that a search by the start of a name comes in order
            $t->index('target', 'records_target');
        });
        Schema::create('record_changes', function (Blueprint $t): void {
            $t->id();
            $t->char('zone_id', 26)->charset('ascii');
            $t->unsignedInteger('serial')->nullable(); // stamped when the zone is next shipped
            $t->char('op', 1)->charset('ascii'); // + or -
            $t->string('owner', 1010)->charset('ascii');
            $t->unsignedSmallInteger('type');
            $t->unsignedInteger('ttl')->nullable();
            $t->mediumText('data');
            $t->index(['zone_id', 'serial', 'id']);
        });
    }
};
