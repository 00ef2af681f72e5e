<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** How long what is over is kept, where it is not as it comes: no days are for ever. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('retention', static function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('kind', 30)->unique();
            $t->unsignedInteger('days')->nullable();
            $t->dateTime('trimmed_at')->nullable();
            $t->unsignedBigInteger('trimmed_rows')->default(0);
            $t->unsignedBigInteger('going')->default(0);
            $t->unsignedInteger('version')->default(1);
        });
        // What is trimmed is found by its time.
        Schema::table('lease_bindings', static fn (Blueprint $t) => $t->index('until_at'));
        Schema::table('report_runs', static fn (Blueprint $t) => $t->index('done_at'));
        Schema::table('shipments', static fn (Blueprint $t) => $t->index('finished_at'));
        Schema::table('mails', static fn (Blueprint $t) => $t->index('made_at'));
        Schema::table('scans', static fn (Blueprint $t) => $t->index('finished_at'));
    }

    public function down(): void
    {
        Schema::drop('retention');
        Schema::table('lease_bindings', static fn (Blueprint $t) => $t->dropIndex(['until_at']));
        Schema::table('report_runs', static fn (Blueprint $t) => $t->dropIndex(['done_at']));
        Schema::table('shipments', static fn (Blueprint $t) => $t->dropIndex(['finished_at']));
        Schema::table('mails', static fn (Blueprint $t) => $t->dropIndex(['made_at']));
        Schema::table('scans', static fn (Blueprint $t) => $t->dropIndex(['finished_at']));
    }
};
