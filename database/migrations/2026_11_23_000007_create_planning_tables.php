<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/**
 * What planning needs beside the tree: tags and own fields, inherited settings, held runs, samples of use, and what the network itself
 * says.
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('prefixes', function (Blueprint $t): void {
            $t->string('origin_handle', 60)->default('');
            $t->date('origin_on')->nullable();
            $t->json('own')->nullable(); // own field id → value
            $t->json('tags')->nullable(); // as written; prefix_tags is their index
            $t->index(['space_id', 'family', 'kind', 'stage'], 'prefixes_kind');
        });
        Schema::create('prefix_tags', function (Blueprint $t): void {
            $t->char('prefix_id', 26)->charset('ascii');
            $t->string('tag', 60);
            $t->primary(['prefix_id', 'tag']);
            $t->index('tag');
        });
        Schema::create('favourites', function (Blueprint $t): void {
            $t->char('person_id', 26)->charset('ascii');
            $t->char('prefix_id', 26)->charset('ascii');
            $t->primary(['person_id', 'prefix_id']);
        });
        Schema::create('own_fields', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 60)->unique();
            $t->string('kind', 10); // text, number, date, choice
            $t->json('choices');
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('settings', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('layer', 12); // organisation, site, prefix
            $t->string('layer_id', 26)->charset('ascii')->default('');
            $t->string('key', 30);
            $t->json('value');
            $t->unsignedInteger('version')->default(1);
            $t->unique(['layer', 'layer_id', 'key']);
        });
        Schema::create('held_runs', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('prefix_id', 26)->charset('ascii');
            $t->binary('first', 16);
            $t->binary('last', 16);
            $t->string('reason');
            $t->date('until')->nullable();
            $t->unsignedInteger('version')->default(1);
            $t->index(['prefix_id', 'first']);
        });
        Schema::create('use_samples', function (Blueprint $t): void {
            $t->char('prefix_id', 26)->charset('ascii');
            $t->unsignedInteger('day'); // days since 1970-01-01
            $t->double('percent');
            $t->primary(['prefix_id', 'day']);
            $t->index('day');
        });
        Schema::create('forecasts', function (Blueprint $t): void {
            $t->char('prefix_id', 26)->charset('ascii')->primary();
            $t->double('percent');
            $t->string('kind', 10); // few, none, rising, falling
            $t->unsignedInteger('samples');
            $t->double('slope'); // percent a day: the trend, and the spread of it
            $t->double('slope_low');
            $t->double('slope_high');
            $t->double('middle_day');
            $t->double('middle_value');
            $t->integer('full_day')->nullable(); // when the trend reaches 100 %, days since 1970-01-01
            $t->index('full_day');
        });
        Schema::create('switch_vlans', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('domain_id', 26)->charset('ascii');
            $t->unsignedSmallInteger('number');
            $t->string('name', 60);
            $t->binary('gateway', 16)->nullable();
            $t->json('relays');
            $t->dateTime('read_at');
            $t->unsignedInteger('version')->default(1);
            $t->unique(['domain_id', 'number']);
        });
        Schema::create('sightings', function (Blueprint $t): void {
            $t->char('space_id', 26)->charset('ascii');
            $t->unsignedTinyInteger('family');
            $t->binary('address', 16);
            $t->binary('mac', 6)->nullable();
            $t->string('ptr')->default('');
            $t->dateTime('first_seen');
            $t->dateTime('last_seen');
            $t->primary(['space_id', 'family', 'address']);
        });
        Schema::create('scans', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('space_id', 26)->charset('ascii');
            $t->json('prefixes'); // ids
            $t->json('left_out'); // ranges
            $t->string('state', 12)->default('waiting'); // waiting, running, done, cancelled, failed
            $t->unsignedInteger('total')->default(0);
            $t->unsignedInteger('done')->default(0);
            $t->unsignedInteger('answered')->default(0);
            $t->string('message')->default('');
            $t->char('person_id', 26)->charset('ascii')->nullable();
            $t->char('schedule_id', 26)->charset('ascii')->nullable();
            $t->dateTime('started_at')->nullable();
            $t->dateTime('finished_at')->nullable();
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('scan_results', function (Blueprint $t): void {
            $t->id();
            $t->char('scan_id', 26)->charset('ascii');
            $t->unsignedTinyInteger('family');
            $t->binary('address', 16);
            $t->char('prefix_id', 26)->charset('ascii');
            $t->char('host_id', 26)->charset('ascii')->nullable();
            $t->binary('mac', 6)->nullable();
            $t->string('ptr')->default('');
            $t->string('verdict', 16); // agrees, unknown, silent, other-mac, other-name, no-ptr
            $t->string('words')->default('');
            $t->index(['scan_id', 'verdict', 'address']);
        });
        Schema::create('scan_schedules', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('space_id', 26)->charset('ascii');
            $t->json('prefixes');
            $t->json('left_out');
            $t->string('every', 10); // day, week
            $t->unsignedTinyInteger('hour');
            $t->boolean('active')->default(true);
            $t->dateTime('last_run_at')->nullable();
            $t->unsignedInteger('version')->default(1);
        });
        Schema::table('records', function (Blueprint $t): void {
            $t->index(['data_hash', 'type'], 'records_data'); // which names point at an address
        });
        Schema::table('addresses', function (Blueprint $t): void {
            $t->string('interface', 60)->default('');
        });
    }
};
