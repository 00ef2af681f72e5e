<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** How ports of switches are meant to be set, which ports have which profile, and how they are set. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('port_profiles', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('domain_id', 26)->charset('ascii');
            $t->string('name', 80);
            $t->char('native_vlan_id', 26)->charset('ascii');
            $t->char('voice_vlan_id', 26)->charset('ascii')->nullable();
            $t->boolean('lldp')->default(false); // phones are told their VLAN by LLDP-MED
            $t->boolean('poe')->default(false);
            $t->unsignedTinyInteger('priority')->default(0); // IEEE 802.1p, of the voice VLAN
            $t->string('description', 255)->default('');
            $t->unsignedInteger('version')->default(1);
            $t->unique(['domain_id', 'name']);
            $t->foreign('domain_id')->references('id')->on('layer2_domains')->restrictOnDelete();
            $t->foreign('native_vlan_id')->references('id')->on('vlans')->restrictOnDelete();
            $t->foreign('voice_vlan_id')->references('id')->on('vlans')->restrictOnDelete();
        });
        Schema::create('profile_ports', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('profile_id', 26)->charset('ascii');
            $t->char('domain_id', 26)->charset('ascii');
            $t->string('device', 60);
            $t->string('port', 40)->charset('ascii');
            $t->unique(['domain_id', 'device', 'port']); // one profile a port
            $t->foreign('profile_id')->references('id')->on('port_profiles')->restrictOnDelete();
        });
        Schema::create('switch_ports', function (Blueprint $t): void {
            $t->id();
            $t->char('domain_id', 26)->charset('ascii');
            $t->string('device', 60);
            $t->string('port', 40)->charset('ascii');
            $t->unsignedSmallInteger('native')->nullable();
            $t->unsignedSmallInteger('voice')->nullable();
            $t->boolean('lldp');
            $t->boolean('poe');
            $t->unsignedTinyInteger('priority');
            $t->dateTime('read_at');
            $t->unique(['domain_id', 'device', 'port']);
        });
    }

    public function down(): void
    {
        Schema::drop('switch_ports');
        Schema::drop('profile_ports');
        Schema::drop('port_profiles');
    }
};
