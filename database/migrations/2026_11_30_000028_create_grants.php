<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What people and teams may do beyond their roles: where, and until when. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('grants', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('person_id', 26)->charset('ascii')->nullable(); // one of the two
            $t->char('team_id', 26)->charset('ascii')->nullable();
            $t->json('does');
            $t->string('place', 10)->charset('ascii'); // tenant, site, space, prefix, zone
            $t->char('place_id', 26)->charset('ascii');
            $t->dateTime('until')->nullable();
            $t->string('why', 255)->default('');
            $t->unsignedInteger('version')->default(1);
            $t->index(['place', 'place_id']);
            $t->foreign('person_id')->references('id')->on('people')->restrictOnDelete();
            $t->foreign('team_id')->references('id')->on('teams')->restrictOnDelete();
        });
    }

    public function down(): void
    {
        Schema::drop('grants');
    }
};
