<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** A hook may be told of one site alone, with all that stands in it. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('hooks', function (Blueprint $t): void {
            $t->char('site_id', 26)->charset('ascii')->nullable();
            $t->foreign('site_id')->references('id')->on('sites')->restrictOnDelete();
        });
        Schema::table('outbox', function (Blueprint $t): void {
            $t->text('sites')->nullable(); // ids of the sites that it touches and of those around them, each between bars; null: not asked
        });
    }

    public function down(): void
    {
        Schema::table('outbox', fn (Blueprint $t) => $t->dropColumn('sites'));
        Schema::table('hooks', function (Blueprint $t): void {
            $t->dropForeign(['site_id']);
            $t->dropColumn('site_id');
        });
    }
};
