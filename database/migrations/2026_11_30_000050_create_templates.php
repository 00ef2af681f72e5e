<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Texts that are made of what stands in the plan, by templates of the team's own and data of its own. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('templates', static function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 120)->unique();
            $t->string('of', 10)->charset('ascii'); // site, vlan, prefix, scope, zone, device
            $t->string('file_name', 120)->default('');
            $t->string('description')->default('');
            $t->mediumText('body');
            $t->char('keeper_id', 26)->charset('ascii')->nullable(); // with whose reach kept texts are made again
            $t->unsignedInteger('version')->default(1);
            $t->foreign('keeper_id')->references('id')->on('people')->nullOnDelete();
        });
        Schema::create('template_data', static function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('layer', 12)->charset('ascii'); // organisation, site, role, tag
            $t->string('at', 120)->default(''); // a site's id, or the word
            $t->mediumText('text'); // YAML, of which JSON is a part
            $t->unsignedInteger('version')->default(1);
            $t->unique(['layer', 'at']);
        });
        Schema::create('made_texts', static function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('template_id', 26)->charset('ascii');
            $t->char('object_id', 26)->charset('ascii');
            $t->string('title', 255);
            $t->mediumText('text');
            $t->mediumText('before')->nullable();
            $t->char('digest', 64)->charset('ascii');
            $t->dateTime('made_at');
            $t->dateTime('looked_at');
            $t->string('trouble', 500)->default('');
            $t->unsignedInteger('version')->default(1);
            $t->unique(['template_id', 'object_id']);
            $t->foreign('template_id')->references('id')->on('templates')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('made_texts');
        Schema::dropIfExists('template_data');
        Schema::dropIfExists('templates');
    }
};
