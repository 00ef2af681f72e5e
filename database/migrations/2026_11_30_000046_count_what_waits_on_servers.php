<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What differs on a server because it was not shipped yet, counted when it is looked at. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('server_states', static function (Blueprint $t): void {
            $t->unsignedInteger('waiting')->default(0);
        });
    }

    public function down(): void
    {
        Schema::table('server_states', static function (Blueprint $t): void {
            $t->dropColumn('waiting');
        });
    }
};
