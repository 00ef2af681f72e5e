<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Where people get mail, when, and what was sent to them. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('people', function (Blueprint $t): void {
            $t->string('mail', 190)->nullable();
            $t->string('mail_when', 10)->charset('ascii')->default('daily'); // never, daily, now
        });
        Schema::create('mails', function (Blueprint $t): void {
            $t->id();
            $t->char('person_id', 26)->charset('ascii');
            $t->string('cause', 120)->charset('ascii'); // what it tells of: of one cause, one mail a person
            $t->string('address', 190);
            $t->string('subject', 250);
            $t->mediumText('body');
            $t->string('file', 120)->nullable(); // name of what hangs on it
            $t->string('state', 10)->charset('ascii')->default('waiting'); // waiting, sent, given up
            $t->unsignedTinyInteger('tries')->default(0);
            $t->dateTime('made_at');
            $t->dateTime('next_at');
            $t->dateTime('sent_at')->nullable();
            $t->string('says', 250)->default('');
            $t->unique(['person_id', 'cause']);
            $t->index(['state', 'next_at']);
            $t->foreign('person_id')->references('id')->on('people')->restrictOnDelete();
        });
        DB::statement('ALTER TABLE mails ADD content MEDIUMBLOB NULL'); // of the file, gzip
    }

    public function down(): void
    {
        Schema::drop('mails');
        Schema::table('people', function (Blueprint $t): void {
            $t->dropColumn(['mail', 'mail_when']);
        });
    }
};
