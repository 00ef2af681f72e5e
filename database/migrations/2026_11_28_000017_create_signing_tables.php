<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Zones that are signed: by which policy, with which keys, and what signing puts beside their own records. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('signing_policies', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 80)->unique();
            $t->unsignedTinyInteger('algorithm'); // of the registry: 8, 13, 15
            $t->boolean('split'); // one key for the keys and one for the zone
            $t->string('denial', 20)->charset('ascii'); // nsec, nsec3, nsec3-opt-out
            // all times in seconds
            $t->unsignedInteger('validity');
            $t->unsignedInteger('refresh');
            $t->unsignedInteger('jitter');
            $t->unsignedInteger('key_ttl');
            $t->unsignedInteger('propagation');
            $t->unsignedInteger('ds_ttl');
            $t->unsignedInteger('parent_propagation');
            $t->unsignedInteger('entry_life'); // 0: replaced on request alone
            $t->unsignedInteger('zone_key_life');
            $t->string('description', 255)->default('');
            $t->unsignedInteger('version')->default(1);
        });
        Schema::table('zones', function (Blueprint $t): void {
            $t->char('policy_id', 26)->charset('ascii')->nullable();
            $t->foreign('policy_id')->references('id')->on('signing_policies');
            // seconds since 1970
            $t->unsignedBigInteger('signed_since')->nullable(); // every server has signatures since
            $t->unsignedBigInteger('unsign_asked')->nullable(); // the parent was asked to name no key any more
            $t->unsignedBigInteger('unsign_seen')->nullable(); // no server of the parent names one since
        });
        Schema::create('zone_keys', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('zone_id', 26)->charset('ascii')->index();
            $t->string('role', 3)->charset('ascii'); // ksk, zsk, csk
            $t->unsignedTinyInteger('algorithm');
            $t->unsignedSmallInteger('tag');
            $t->text('public')->charset('ascii'); // data of the DNSKEY
            $t->text('secret'); // encrypted
            $t->string('wants', 10)->charset('ascii')->default(''); // active, removed: in force when every server has it
            $t->unsignedBigInteger('made');
            // when every server of the zone had it, in seconds since 1970
            $t->unsignedBigInteger('published')->nullable();
            $t->unsignedBigInteger('active')->nullable();
            $t->unsignedBigInteger('retired')->nullable();
            $t->unsignedBigInteger('ds_asked')->nullable();
            $t->unsignedBigInteger('ds_seen')->nullable();
            $t->unsignedBigInteger('removed')->nullable();
            $t->unsignedInteger('version')->default(1);
            $t->foreign('zone_id')->references('id')->on('zones')->cascadeOnDelete();
        });
        // Made anew from records and keys whenever it is needed: no object of anybody's, and in no history.
        Schema::create('signed_records', function (Blueprint $t): void {
            $t->id();
            $t->char('zone_id', 26)->charset('ascii');
            $t->string('owner', 1010)->charset('ascii');
            $t->binary('owner_key', 512);
            $t->unsignedSmallInteger('type');
            $t->unsignedInteger('ttl');
            $t->mediumText('data');
            $t->unsignedSmallInteger('covers')->nullable(); // of a signature: the type that it signs
            $t->unsignedSmallInteger('tag')->nullable();
            $t->unsignedTinyInteger('algorithm')->nullable();
            $t->binary('digest', 20)->nullable(); // of the set that is signed
            $t->unsignedBigInteger('expires')->nullable();
            $t->index(['zone_id', 'expires']);
            $t->rawIndex('zone_id, owner_key(200), type', 'signed_records_name');
            $t->foreign('zone_id')->references('id')->on('zones')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        Schema::drop('signed_records');
        Schema::drop('zone_keys');
        Schema::table('zones', function (Blueprint $t): void {
            $t->dropForeign(['policy_id']);
        });
        Schema::drop('signing_policies');
    }
};
