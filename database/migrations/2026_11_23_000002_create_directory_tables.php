<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Sites, tenants, people, devices, servers, and the record of what was written. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('sites', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('parent_id', 26)->charset('ascii')->nullable()->index();
            $t->string('name', 120)->unique();
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('tenants', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 120)->unique();
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('people', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('sign_in', 60)->unique();
            $t->string('name', 120);
            $t->string('password');
            $t->json('roles');
            $t->char('tenant_id', 26)->charset('ascii')->nullable();
            $t->string('theme', 10)->default('paper');
            $t->boolean('active')->default(true);
            $t->string('remember_token', 100)->nullable();
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('devices', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 120)->unique();
            $t->string('kind', 60)->default('');
            $t->char('site_id', 26)->charset('ascii')->nullable()->index();
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('servers', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 120)->unique();
            $t->string('kind', 10); // dns, resolver, dhcp
            $t->char('site_id', 26)->charset('ascii')->nullable();
            $t->binary('address', 16)->nullable(); // in the plan
            $t->string('endpoint', 120); // where packets reach it, host:port
            $t->string('control', 120)->nullable(); // where it takes what is shipped, host:port
            $t->text('token')->nullable(); // encrypted
            $t->boolean('held')->default(false);
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('history', function (Blueprint $t): void {
            $t->id();
            $t->char('act_id', 26)->charset('ascii')->index();
            $t->dateTime('at', 3);
            $t->char('person_id', 26)->charset('ascii')->nullable();
            $t->string('action', 60);
            $t->string('object_type', 30);
            $t->char('object_id', 26)->charset('ascii');
            $t->string('title');
            $t->json('before')->nullable();
            $t->json('after')->nullable();
            $t->index(['object_type', 'object_id', 'id']);
        });
        Schema::create('drafts', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('person_id', 26)->charset('ascii');
            $t->string('state', 12)->default('open'); // open, submitted, approved, committed, dropped
            $t->char('decided_by', 26)->charset('ascii')->nullable();
            $t->string('decision_reason')->nullable();
            $t->dateTime('started_at');
            $t->dateTime('ended_at')->nullable();
            $t->unsignedInteger('version')->default(1);
            $t->index(['person_id', 'state']);
        });
        Schema::create('draft_edits', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('draft_id', 26)->charset('ascii');
            $t->unsignedInteger('position');
            $t->string('action', 60);
            $t->json('input');
            $t->json('expects'); // object → version it had when the edit was added
            $t->json('touches'); // objects the edit writes, for the marks on their pages
            $t->string('title');
            $t->unsignedInteger('version')->default(1);
            $t->unique(['draft_id', 'position']);
        });
    }
};
