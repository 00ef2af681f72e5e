<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Options that an organisation defines for itself: a code that no standard defines, its name and its shape. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('option_definitions', static function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->unsignedTinyInteger('family');
            $t->unsignedSmallInteger('code');
            $t->string('name', 60);
            $t->string('shape', 12)->charset('ascii');
            $t->string('description')->default('');
            $t->unsignedInteger('version')->default(1);
            $t->unique(['family', 'code']);
        });
    }

    public function down(): void
    {
        Schema::drop('option_definitions');
    }
};
