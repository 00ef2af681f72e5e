<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Zones that are handed out from here: as they were shipped last, not as they are being edited. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('servers', static function (Blueprint $t): void {
            $t->string('catalog', 255)->charset('ascii')->nullable(); // the zone that lists its zones (RFC 9432)
        });
        Schema::create('served_zones', static function (Blueprint $t): void {
            $t->char('server_id', 26)->charset('ascii');
            $t->char('zone_id', 26)->charset('ascii');
            $t->unsignedInteger('serial');
            $t->unsignedInteger('steps_from'); // from this serial on, what came since can be told by itself
            $t->unsignedInteger('default_ttl');
            $t->text('soa')->charset('ascii');
            $t->dateTime('at');
            $t->primary(['server_id', 'zone_id']);
            $t->foreign('server_id')->references('id')->on('servers')->cascadeOnDelete();
            $t->foreign('zone_id')->references('id')->on('zones')->cascadeOnDelete();
        });
        Schema::create('served_catalogs', static function (Blueprint $t): void {
            $t->char('server_id', 26)->charset('ascii');
            $t->char('view_id', 26)->charset('ascii');
            $t->unsignedInteger('serial');
            $t->primary(['server_id', 'view_id']);
            $t->foreign('server_id')->references('id')->on('servers')->cascadeOnDelete();
            $t->foreign('view_id')->references('id')->on('views')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('served_catalogs');
        Schema::dropIfExists('served_zones');
        Schema::table('servers', static fn (Blueprint $t) => $t->dropColumn('catalog'));
    }
};
