<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Prices and bands that a user keeps an eye on. */
return new class extends Migration {
    public function up(): void
    {
        Schema::create('marked_levels', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id');
            $table->string('contract', 12);
            $table->integer('low');
            $table->integer('high');
            $table->string('name', 60);
            $table->string('tone', 12);
            $table->unsignedBigInteger('since');
            $table->timestamps();
            $table->index(['user_id', 'contract']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('marked_levels');
    }
};
