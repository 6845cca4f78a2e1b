from django.urls import path

from cambrel.pictures import views

app_name = "pictures"
urlpatterns = [path("scene/<str:token>/<int:height>.<str:kind>", views.picture, name="picture")]
