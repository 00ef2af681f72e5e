<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What somebody must be able to do, and must not: tried again and again, so that a grant that opens too much is noticed. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('right_tests', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('person_id', 26)->charset('ascii')->index();
            $t->string('does', 5)->charset('ascii'); // see, write
            $t->string('noun', 20)->charset('ascii'); // prefix, zone
            $t->char('object_id', 26)->charset('ascii');
            $t->string('object', 200);
            $t->boolean('expected');
            $t->boolean('found')->nullable(); // when it was tried last; null: the person or the object is gone
            $t->dateTime('run_at')->nullable();
            $t->unsignedInteger('version')->default(1);
            $t->foreign('person_id')->references('id')->on('people')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        Schema::drop('right_tests');
    }
};
