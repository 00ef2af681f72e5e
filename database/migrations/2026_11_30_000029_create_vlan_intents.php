<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What clients of a VLAN are meant to reach. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('vlan_intents', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('vlan_id', 26)->charset('ascii'); // whose clients
            $t->char('to_vlan_id', 26)->charset('ascii')->nullable(); // one of the two
            $t->string('to_prefix', 60)->charset('ascii')->nullable();
            $t->string('to_key', 60)->charset('ascii'); // whichever of the two it is
            $t->boolean('allows');
            $t->string('days', 20)->charset('ascii')->nullable(); // null: always
            $t->char('starts', 5)->charset('ascii')->nullable();
            $t->unsignedSmallInteger('minutes')->nullable();
            $t->string('zone', 60)->charset('ascii')->nullable();
            $t->string('why', 255)->default('');
            $t->unsignedInteger('version')->default(1);
            $t->unique(['vlan_id', 'to_key']);
            $t->foreign('vlan_id')->references('id')->on('vlans')->restrictOnDelete();
            $t->foreign('to_vlan_id')->references('id')->on('vlans')->restrictOnDelete();
        });
    }

    public function down(): void
    {
        Schema::drop('vlan_intents');
    }
};
