<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Long work that can be resumed: imports with their judged rows, shipments with their steps. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('imports', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('person_id', 26)->charset('ascii')->nullable();
            $t->string('kind', 10); // plan, zone
            $t->char('target_id', 26)->charset('ascii'); // the space or the zone
            $t->string('file_name');
            $t->string('path');
            $t->string('state', 12); // reading, judged, taking, taken, cancelled, failed
            $t->unsignedBigInteger('bytes');
            $t->unsignedBigInteger('bytes_read')->default(0); // where reading goes on
            $t->unsignedInteger('lines')->default(0);
            $t->json('counts');
            $t->string('message', 1000)->default('');
            $t->dateTime('started_at');
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('import_rows', function (Blueprint $t): void {
            $t->id();
            $t->char('import_id', 26)->charset('ascii');
            $t->unsignedInteger('line');
            $t->string('verdict', 8); // read until it is judged, then add, change, same, cut or refused
            $t->string('what', 300);
            $t->string('reason', 500)->default('');
            $t->json('payload');
            $t->binary('place', 20)->nullable(); // family, first, length, rank: the order of a tree walk
            $t->binary('match_key', 16)->nullable(); // identity of a record
            $t->index(['import_id', 'verdict', 'id']);
            $t->index(['import_id', 'place', 'id']);
            $t->index(['import_id', 'match_key']);
        });
        Schema::create('shipments', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('server_id', 26)->charset('ascii')->index();
            $t->char('person_id', 26)->charset('ascii')->nullable();
            $t->string('state', 12); // running, done, partial, failed
            $t->json('steps'); // one entry a zone or scope: what, state, message
            $t->dateTime('started_at', 3);
            $t->dateTime('finished_at', 3)->nullable();
            $t->unsignedInteger('version')->default(1);
        });
    }
};
