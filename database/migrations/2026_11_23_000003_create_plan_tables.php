<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/**
 * Spaces, prefixes with their open blocks, VLANs and addresses. Addresses are bytes; the family keeps IPv4 and IPv6 apart in every index.
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('spaces', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 120)->unique();
            $t->string('route_distinguisher', 30)->nullable();
            $t->string('description')->default('');
            $t->unsignedInteger('structure')->default(1); // raised by every write that adds or removes a top prefix
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('layer2_domains', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 120)->unique();
            $t->char('site_id', 26)->charset('ascii')->nullable()->index();
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('vlans', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('domain_id', 26)->charset('ascii');
            $t->unsignedSmallInteger('number');
            $t->string('name', 60);
            $t->string('description')->default('');
            $t->unsignedInteger('version')->default(1);
            $t->unique(['domain_id', 'number']);
            $t->index('number');
        });
        Schema::create('prefixes', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('space_id', 26)->charset('ascii');
            $t->unsignedTinyInteger('family');
            $t->binary('first', 16);
            $t->unsignedTinyInteger('length');
            $t->boolean('groups'); // a supernet; one subnet or pool may have the same first and length
            $t->char('parent_id', 26)->charset('ascii')->nullable();
            $t->string('kind', 10); // supernet, subnet, pool
            $t->string('stage', 10); // planned, live, retiring, withheld
            $t->string('name', 120)->default('');
            $t->string('role', 60)->default('');
            $t->string('description')->default('');
            $t->char('site_id', 26)->charset('ascii')->nullable()->index();
            $t->char('tenant_id', 26)->charset('ascii')->nullable();
            $t->char('effective_tenant_id', 26)->charset('ascii')->nullable()->index();
            $t->char('vlan_id', 26)->charset('ascii')->nullable()->index();
            $t->binary('gateway', 16)->nullable();
            $t->string('origin')->default('');
            $t->unsignedInteger('children')->default(0);
            $t->double('carved')->default(0); // share of the addresses that children hold; sums of powers of two are exact
            $t->unsignedBigInteger('used')->default(0); // addresses assigned, folded from use_deltas
            $t->unsignedInteger('structure')->default(1); // raised by every write that changes what is inside
            $t->unsignedInteger('version')->default(1);
            $t->unique(['space_id', 'family', 'first', 'length', 'groups'], 'prefixes_key');
            $t->index(['parent_id', 'family', 'first', 'length'], 'prefixes_children');
            $t->index(['parent_id', 'length', 'first'], 'prefixes_sizes');
            $t->index('name');
        });
        Schema::create('open_blocks', function (Blueprint $t): void {
            $t->char('parent_id', 26)->charset('ascii');
            $t->unsignedTinyInteger('length');
            $t->binary('first', 16);
            $t->primary(['parent_id', 'length', 'first']);
            $t->index(['parent_id', 'first'], 'open_blocks_by_address');
        });
        Schema::create('addresses', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('space_id', 26)->charset('ascii');
            $t->unsignedTinyInteger('family');
            $t->binary('address', 16);
            $t->char('prefix_id', 26)->charset('ascii');
            $t->string('name')->charset('ascii')->default(''); // absolute, lower case, without the final dot
            $t->string('role', 10)->default('host'); // host, gateway, virtual, service
            $t->binary('mac', 6)->nullable();
            $t->char('device_id', 26)->charset('ascii')->nullable()->index();
            $t->string('owner', 120)->default('');
            $t->string('description')->default('');
            $t->unsignedInteger('version')->default(1);
            $t->unique(['space_id', 'family', 'address'], 'addresses_key');
            $t->index(['prefix_id', 'address']);
            $t->index('mac');
            $t->index('name');
        });
        Schema::create('use_deltas', function (Blueprint $t): void {
            $t->id();
            $t->char('prefix_id', 26)->charset('ascii')->index();
            $t->integer('delta');
        });
    }
};
