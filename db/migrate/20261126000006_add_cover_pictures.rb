# frozen_string_literal: true

# A bundle's cover may be a picture of its own instead of a brush's strip.
class AddCoverPictures < ActiveRecord::Migration[7.2]
  def change = add_column(:bundles, :picture, :string)
end
