<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** People together, and rules of agreement that ask some of them. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('teams', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('name', 80)->unique();
            $t->string('description', 255)->default('');
            $t->unsignedInteger('version')->default(1);
        });
        Schema::create('team_members', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->char('team_id', 26)->charset('ascii');
            $t->char('person_id', 26)->charset('ascii');
            $t->unique(['team_id', 'person_id']);
            $t->foreign('team_id')->references('id')->on('teams')->restrictOnDelete();
            $t->foreign('person_id')->references('id')->on('people')->restrictOnDelete();
        });
        Schema::table('approval_rules', function (Blueprint $t): void {
            $t->char('team_id', 26)->charset('ascii')->nullable(); // who agrees; null: any approver
            $t->foreign('team_id')->references('id')->on('teams')->restrictOnDelete();
        });
    }

    public function down(): void
    {
        Schema::table('approval_rules', function (Blueprint $t): void {
            $t->dropForeign(['team_id']);
            $t->dropColumn('team_id');
        });
        Schema::drop('team_members');
        Schema::drop('teams');
    }
};
