# frozen_string_literal: true

# What a brush does is found by its words too, as it stands under the strip.
class FindByTraits < ActiveRecord::Migration[7.1]
  def up
    execute("UPDATE presets SET words = words || ' ' || replace(trait_words, E'\\n', ' ') WHERE trait_words <> ''")
  end

  def down
  end
end
