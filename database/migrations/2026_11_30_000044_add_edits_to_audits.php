<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Rules of the team are asked when somebody edits, where that is wanted. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('audits', static function (Blueprint $t): void {
            $t->string('at_edit', 5)->charset('ascii')->default('off'); // off, warn, block
        });
    }

    public function down(): void
    {
        Schema::table('audits', static function (Blueprint $t): void {
            $t->dropColumn('at_edit');
        });
    }
};
