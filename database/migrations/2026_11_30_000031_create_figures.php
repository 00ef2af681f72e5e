<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What servers measure of themselves, by the minute, and folded to five minutes, hours and days. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('servers', function (Blueprint $t): void {
            $t->string('metrics', 255)->nullable(); // where its figures are read: an address, or "control"
            $t->boolean('measured')->default(true);
            $t->string('unmeasured_why', 255)->default('');
        });
        Schema::table('server_states', function (Blueprint $t): void {
            $t->dateTime('figures_since')->nullable(); // of the first reading
            $t->dateTime('figures_at')->nullable(); // of the last that went well
            $t->string('figures_problem', 255)->nullable();
            $t->dateTime('figures_problem_since')->nullable();
            $t->unsignedSmallInteger('figures_left')->default(0); // figures of the last reading that are not kept
        });
        Schema::create('series', function (Blueprint $t): void {
            $t->id();
            $t->char('server_id', 26)->charset('ascii');
            $t->string('family', 120)->charset('ascii');
            $t->string('labels', 255)->default('');
            $t->string('type', 10)->charset('ascii'); // gauge, counter, summary
            $t->string('unit', 20)->default('');
            $t->string('help', 255)->default('');
            $t->double('value')->nullable(); // as the server told it last: total, sum
            $t->double('counted')->nullable(); // of a summary
            $t->dateTime('at');
            $t->unique(['server_id', 'family', 'labels']);
            $t->index('family');
            $t->foreign('server_id')->references('id')->on('servers')->cascadeOnDelete();
        });
        Schema::create('samples', function (Blueprint $t): void {
            $t->unsignedBigInteger('series_id');
            $t->unsignedSmallInteger('step'); // minutes: 1, 5, 60, 1440
            $t->dateTime('at'); // its beginning
            $t->float('low');
            $t->float('mean');
            $t->float('high');
            $t->primary(['series_id', 'step', 'at']);
            $t->index(['step', 'at']);
        });
        Schema::create('thresholds', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('family', 120)->charset('ascii');
            $t->string('labels', 255)->default(''); // blank: whatever they are
            $t->boolean('above');
            $t->double('value');
            $t->unsignedSmallInteger('minutes');
            $t->unsignedInteger('version')->default(1);
            $t->unique(['family', 'labels', 'above']);
        });
    }

    public function down(): void
    {
        Schema::drop('thresholds');
        Schema::drop('samples');
        Schema::drop('series');
        Schema::table('server_states', function (Blueprint $t): void {
            $t->dropColumn(['figures_since', 'figures_at', 'figures_problem', 'figures_problem_since', 'figures_left']);
        });
        Schema::table('servers', function (Blueprint $t): void {
            $t->dropColumn(['metrics', 'measured', 'unmeasured_why']);
        });
    }
};
