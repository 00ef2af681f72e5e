<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('vendor_templates', static function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->unsignedTinyInteger('family');
            $t->string('name', 60)->unique();
            $t->string('vendor_class')->default(''); // what option 60 starts with
            $t->unsignedInteger('enterprise')->nullable();
            $t->text('subs'); // a line each: CODE NAME: HOLDS
            $t->unsignedInteger('version')->default(1);
        });
    }

    public function down(): void
    {
        Schema::drop('vendor_templates');
    }
};
