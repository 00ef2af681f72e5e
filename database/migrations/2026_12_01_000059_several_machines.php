<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // What one machine alone does at a time, for as long as it says so.
        Schema::create('duties', function (Blueprint $t): void {
            $t->string('name', 60)->primary();
            $t->string('machine', 100);
            $t->string('holder', 40);
            $t->dateTime('since', 3);
            $t->dateTime('until', 3);
        });
        Schema::create('machines', function (Blueprint $t): void {
            $t->string('name', 100)->primary();
            $t->dateTime('started_at', 3);
            $t->dateTime('seen_at', 3);
        });
        // What was committed under which number: whoever got no answer takes the number away, and then it never will be.
        Schema::create('attempts', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('taken', 16)->charset('ascii')->nullable(); // by whom it was taken away; null: it was committed
            $t->dateTime('at')->index();
        });
        // Files that were uploaded, in pieces: whichever machine reads one has it.
        Schema::create('import_pieces', function (Blueprint $t): void {
            $t->id();
            $t->char('import_id', 26);
            $t->unsignedSmallInteger('edition');
            $t->string('name', 64);
            $t->unsignedInteger('place');
            $t->dateTime('at');
            $t->unique(['import_id', 'edition', 'name', 'place']);
        });
        DB::statement('ALTER TABLE import_pieces ADD bytes MEDIUMBLOB NOT NULL AFTER place');
        // Who carries a request out; whoever takes it over takes it from them.
        Schema::table('answered', fn (Blueprint $t) => $t->char('holder', 16)->charset('ascii')->default('')->after('request'));
        Schema::table('imports', fn (Blueprint $t) => $t->unsignedSmallInteger('edition')->default(0)->after('path'));
    }

    public function down(): void
    {
        Schema::table('imports', fn (Blueprint $t) => $t->dropColumn('edition'));
        Schema::table('answered', fn (Blueprint $t) => $t->dropColumn('holder'));
        Schema::dropIfExists('import_pieces');
        Schema::dropIfExists('attempts');
        Schema::dropIfExists('machines');
        Schema::dropIfExists('duties');
    }
};
