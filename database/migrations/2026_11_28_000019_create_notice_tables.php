<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What is wrong or will be, one notice a cause, from when it holds until it is over; and from when on people are told. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('notices', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('kind', 20)->charset('ascii');
            $t->string('cause', 100)->charset('ascii')->nullable()->unique(); // null once it is over, so that it may come again
            $t->string('title', 250);
            $t->string('words', 250)->default('');
            $t->string('link', 120)->default('');
            $t->dateTime('since');
            $t->dateTime('told_at')->nullable(); // it held long enough
            $t->dateTime('over_at')->nullable();
            $t->char('taken_by', 26)->charset('ascii')->nullable(); // somebody looks after it
            $t->dateTime('taken_at')->nullable();
            $t->dateTime('quiet_until')->nullable();
            $t->unsignedInteger('version')->default(1);
            $t->index(['over_at', 'told_at']);
        });
        Schema::create('notice_rules', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('kind', 20)->charset('ascii')->unique();
            $t->boolean('active')->default(true);
            $t->string('level', 10)->charset('ascii'); // error, warning, note
            $t->unsignedInteger('threshold'); // what it counts is said by the kind
            $t->unsignedInteger('minutes'); // it has to hold so long
            $t->json('people'); // ids; none: everybody who works on everything
            $t->unsignedInteger('version')->default(1);
        });
    }

    public function down(): void
    {
        Schema::drop('notice_rules');
        Schema::drop('notices');
    }
};
